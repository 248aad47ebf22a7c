/** What each carriage does over the cycle's time: its ways and tool changes, its waits, its work; marks across. */
import { useRef, useState, type KeyboardEvent, type PointerEvent, type WheelEvent } from "react";
import type { BalancedLoadView, LaneCallView } from "../api/client";
import { SpanButtons } from "./SpanButtons";
import { clockMs, keyed, ticksOf, zoomed, type Span } from "./timeAxis";
import { TimeTicks } from "./TimeTicks";

const LEFT = 92;
const WIDTH = 1060;
const TOP = 34;
const LANE = 54;
const NARROW = 27; // of a drum's slides
const LETTER = 6.4; // px of one, about

export function LanesStrip(props: {
  load: BalancedLoadView;
  span: Span;
  onSpan: (span: Span) => void;
  chosen: string | null;
  onChoose: (operation: string) => void;
  onMove: (operation: string, carriage: string) => void;
}) {
  const { load, span, onSpan, chosen, onChoose, onMove } = props;
  const tall = load.drum ? NARROW : LANE;
  const inset = load.drum ? 3 : 7;
  const svg = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<{ operation: string; over: number } | null>(null);
  const [from, to] = span;
  const { digits } = ticksOf(span);
  const scale = (WIDTH - LEFT - 6) / Math.max(to - from, 1e-6);
  const x = (t: number) => LEFT + (Math.min(Math.max(t, from), to) - from) * scale;
  const height = TOP + load.lanes.length * tall + 6;
  const picked = load.lanes.flatMap((lane) => lane.calls).find((call) => call.operation === chosen);
  const about = picked ? picked.go : (from + to) / 2;

  const place = (event: { clientX: number; clientY: number }): [time: number, lane: number] | null => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return null;
    const ratio = WIDTH / box.width;
    const along = (event.clientX - box.left) * ratio;
    const lane = Math.floor(((event.clientY - box.top) * ratio - TOP) / tall);
    return [from + (along - LEFT) / scale, Math.min(Math.max(lane, 0), load.lanes.length - 1)];
  };
  const drop = (event: PointerEvent) => {
    const lane = place(event)?.[1];
    const carriage = load.lanes[lane ?? -1]?.carriage;
    if (dragged && carriage !== undefined && lane !== laneOf(load, dragged.operation))
      onMove(dragged.operation, carriage);
    setDragged(null);
  };
  const wheel = (event: WheelEvent) =>
    onSpan(zoomed(span, load.cycle, event.deltaY > 0 ? 1.25 : 0.8, place(event)?.[0] ?? about));
  const key = (event: KeyboardEvent) => {
    const then = keyed(event.key, span, load.cycle, about);
    if (!then || event.altKey) return;
    event.preventDefault();
    onSpan(then);
  };
  return (
    <div className={`machine-strip lanes-strip${load.drum ? " of-drum" : ""}`}>
      <SpanButtons span={span} total={load.cycle} about={about} onSpan={onSpan} />
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="application"
        tabIndex={0}
        aria-label={`Cycle of ${load.setups.join(" + ")}, ${clockMs(from, digits)} to ${clockMs(to, digits)}, one lane per carriage`}
        onWheel={wheel}
        onKeyDown={key}
        onPointerMove={(event) => {
          const over = dragged && place(event)?.[1];
          if (dragged && typeof over === "number" && over !== dragged.over) setDragged({ ...dragged, over });
        }}
        onPointerUp={drop}
        onPointerLeave={() => setDragged(null)}
      >
        <defs>
          <pattern id="lane-wait" width="5" height="5" patternUnits="userSpaceOnUse">
            <path d="M0 5L5 0" className="hatch" />
          </pattern>
        </defs>
        <TimeTicks span={span} x={x} top={TOP - 8} height={height} />
        {load.lanes.map((lane, i) => (
          <g key={lane.carriage} className={dragged?.over === i ? "over" : undefined}>
            <rect className="lane" x={0} y={TOP + i * tall} width={WIDTH} height={tall} />
            <text x={2} y={TOP + i * tall + (load.drum ? 18 : 24)}>
              {lane.carriage}
            </text>
            {!load.drum && (
              <text x={2} y={TOP + i * tall + 40} className="soft">
                waits {lane.waiting.toFixed(1)} s
              </text>
            )}
            {(!load.drum || lane.calls.length > 0) && x(load.cycle) - x(lane.end) > 0.2 && (
              <rect
                className="wait"
                x={x(lane.end)}
                y={TOP + i * tall + inset}
                width={x(load.cycle) - x(lane.end)}
                height={tall - 2 * inset}
              />
            )}
            {lane.calls.map((call) => (
              <Block
                key={`${call.piece} ${call.operation}`}
                call={call}
                y={TOP + i * tall + inset}
                high={tall - 2 * inset}
                x={x}
                chosen={call.operation === chosen}
                onDown={(event) => {
                  onChoose(call.operation);
                  if (event.button === 0) setDragged({ operation: call.operation, over: i });
                }}
              />
            ))}
          </g>
        ))}
        {load.marks
          .filter((mark) => mark.at >= from && mark.at <= to)
          .map((mark) => (
            <g key={mark.code} className="mark">
              <title>{`${mark.carriages.join(" and ")} wait for one another at ${mark.code}`}</title>
              <path d={`M${x(mark.at)} ${TOP - 10}V${height}`} />
              <text x={x(mark.at)} y={TOP - 13} textAnchor="middle">
                {mark.code}
              </text>
            </g>
          ))}
      </svg>
    </div>
  );
}

function Block(props: {
  call: LaneCallView;
  y: number;
  high: number;
  x: (t: number) => number;
  chosen: boolean;
  onDown: (event: PointerEvent) => void;
}) {
  const { call, y, high, x, chosen, onDown } = props;
  const bar = (kind: string, from: number, to: number) => {
    const wide = x(to) - x(from);
    return wide > 0.2 && <rect className={kind} x={x(from)} y={y} width={wide} height={high} />;
  };
  const room = Math.floor((x(call.end) - x(call.go) - 6) / LETTER);
  const lines =
    room <= 3
      ? []
      : high < 30
        ? [call.name]
        : [`T${call.tool} ${call.steady ? "" : "from "}${call.n.toFixed(0)}`, call.name];
  return (
    <g
      className={`call${chosen ? " chosen" : ""}${call.on_chain ? " chain" : ""}${call.counter ? " counter" : ""}`}
      onPointerDown={onDown}
      data-operation={call.operation}
    >
      <title>
        {`${call.name}, T${call.tool} ${call.tool_name}${call.counter ? ", in the counter spindle" : ""}: ` +
          `${call.go.toFixed(2)} to ${call.end.toFixed(2)} s` +
          (call.waits_for
            ? `; waited ${(call.go - call.ready).toFixed(2)} s for “${call.waits_for}”: ${call.why}`
            : "")}
      </title>
      {bar("change", call.begin, call.ready)}
      {bar("wait", call.ready, call.go)}
      {bar("work", call.go, call.end)}
      {lines.map((line, k) => (
        <text key={k} x={x(call.go) + 4} y={y + 16 + 15 * k} className="in-bar">
          {line.length > room ? `${line.slice(0, room - 1)}…` : line}
        </text>
      ))}
    </g>
  );
}

function laneOf(load: BalancedLoadView, operation: string): number {
  return load.lanes.findIndex((lane) => lane.calls.some((call) => call.operation === operation));
}
