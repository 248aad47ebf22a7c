/** What the machine does, second by second: one lane per tool, zoomed from the whole cycle to milliseconds. */
import { useMemo, useRef, type KeyboardEvent, type MouseEvent, type ReactNode, type WheelEvent } from "react";
import type { RanView } from "../api/client";
import { SpanButtons } from "./SpanButtons";
import { clockMs, keyed, ticksOf, zoomed, type Span } from "./timeAxis";
import { TimeTicks } from "./TimeTicks";

const LEFT = 190;
const WIDTH = 1060;
const TOP = 20;
/** Shares of a lane's height that a kind takes: from the top, to the bottom. */
const HEIGHTS: Record<string, [number, number]> = {
  cut: [0, 1],
  rapid: [0.62, 1],
  tool_change: [0, 1],
  index: [0, 1],
  spindle: [0.3, 1],
  dwell: [0.3, 1],
  probe: [0.15, 1],
  wait: [0.3, 1],
  pick_off: [0.15, 1],
};

export function MachineStrip(props: {
  ran: RanView;
  total: number;
  lanes: { tool: number; label: string }[];
  span: Span;
  onSpan: (span: Span) => void;
  at: number | null;
  onPick: (step: number) => void;
  children?: ReactNode;
}) {
  const { ran, total, lanes, span, onSpan, at, onPick } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [from, to] = span;
  const lane = lanes.length > 9 ? 17 : lanes.length > 6 ? 20 : 26;
  const height = TOP + lanes.length * lane + 4;
  const scale = (WIDTH - LEFT - 6) / Math.max(to - from, 1e-6);
  const x = (t: number) => LEFT + (Math.min(Math.max(t, from), to) - from) * scale;
  const paths = useMemo(() => drawn(ran, lanes, from, to, scale, lane), [ran, lanes, from, to, scale, lane]);
  const { digits } = ticksOf(span);

  const timeOf = (event: MouseEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return null;
    const along = ((event.clientX - box.left) / box.width) * WIDTH;
    return along < LEFT ? null : from + (along - LEFT) / scale;
  };
  const pick = (event: MouseEvent) => {
    const time = timeOf(event);
    if (time !== null) onPick(stepAt(ran, time));
  };
  const about = at !== null ? (ran.start[at] ?? from) : (from + to) / 2;
  const wheel = (event: WheelEvent) =>
    onSpan(zoomed(span, total, event.deltaY > 0 ? 1.25 : 0.8, timeOf(event) ?? (from + to) / 2));
  const key = (event: KeyboardEvent) => {
    const then = keyed(event.key, span, total, about);
    if (!then) return;
    event.preventDefault();
    onSpan(then);
  };
  return (
    <div className="machine-strip">
      <SpanButtons span={span} total={total} about={about} onSpan={onSpan}>
        {props.children}
      </SpanButtons>
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="application"
        tabIndex={0}
        aria-label={`Time strip, ${clockMs(from, digits)} to ${clockMs(to, digits)}, one lane per tool`}
        onClick={pick}
        onWheel={wheel}
        onKeyDown={key}
      >
        <Patterns />
        <TimeTicks span={span} x={x} top={TOP - 4} height={height} />
        {lanes.map((one, i) => (
          <g key={one.tool}>
            <path d={`M0 ${TOP + (i + 1) * lane}H${WIDTH}`} className="grid" />
            <text x={0} y={TOP + i * lane + lane / 2 + 4}>
              {one.label.length > 28 ? `${one.label.slice(0, 27)}…` : one.label}
            </text>
          </g>
        ))}
        {paths.map(({ kind, d }) => (
          <path key={kind} d={d} className={`ran ran-${kind}`} />
        ))}
        {at !== null &&
          (ran.start[at] ?? 0) <= to &&
          (ran.start[at] ?? 0) + (ran.seconds[at] ?? 0) >= from && (
            <path
              className="now"
              d={`M${x(ran.start[at] ?? 0)} ${TOP - 6}V${height}H${Math.max(x((ran.start[at] ?? 0) + (ran.seconds[at] ?? 0)), x(ran.start[at] ?? 0) + 1)}V${TOP - 6}Z`}
            />
          )}
      </svg>
    </div>
  );
}

/** The last step that has begun at a time. */
function stepAt(ran: RanView, time: number): number {
  let low = 0;
  let high = ran.start.length - 1;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((ran.start[middle] ?? 0) <= time) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** One path for each kind: thousands of bars are a handful of elements. */
function drawn(
  ran: RanView,
  lanes: { tool: number }[],
  from: number,
  to: number,
  scale: number,
  lane: number,
): { kind: string; d: string }[] {
  const row = new Map(lanes.map((one, i) => [one.tool, i]));
  const parts: Record<string, string[]> = {};
  for (let i = 0; i < ran.start.length; i++) {
    const start = ran.start[i] ?? 0;
    const end = start + (ran.seconds[i] ?? 0);
    const own = row.get(ran.tool[i] ?? -1);
    if (end < from || start > to || own === undefined || end === start) continue;
    const kind = ran.kind[i] ?? "cut";
    const [high, low] = HEIGHTS[kind] ?? [0, 1];
    const left = LEFT + (Math.max(start, from) - from) * scale;
    const wide = Math.max((Math.min(end, to) - Math.max(start, from)) * scale, 0.35);
    const top = TOP + own * lane + 3 + high * (lane - 6);
    (parts[kind] ??= []).push(
      `M${left.toFixed(2)} ${top.toFixed(1)}h${wide.toFixed(2)}v${((low - high) * (lane - 6)).toFixed(1)}h${(-wide).toFixed(2)}z`,
    );
  }
  return Object.entries(parts).map(([kind, all]) => ({ kind, d: all.join("") }));
}

/** The tones and hatches of the ledger strip's bar. */
function Patterns() {
  return (
    <defs>
      <pattern
        id="ran-rapid"
        width="4"
        height="4"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(-45)"
      >
        <path d="M0 0V4" className="hatch hatch-rapid" />
      </pattern>
      <pattern id="ran-change" width="4" height="4" patternUnits="userSpaceOnUse">
        <path d="M1 0V4" className="hatch hatch-change" />
      </pattern>
      <pattern id="ran-index" width="5" height="5" patternUnits="userSpaceOnUse">
        <path d="M0 0L5 5M5 0L0 5" className="hatch hatch-index" />
      </pattern>
      <pattern id="ran-spindle" width="4" height="4" patternUnits="userSpaceOnUse">
        <path d="M1 1h2v2h-2z" className="dot" />
      </pattern>
      <pattern id="ran-wait" width="5" height="5" patternUnits="userSpaceOnUse">
        <path d="M0 5L5 0" className="hatch hatch-wait" />
      </pattern>
      <pattern id="ran-dwell" width="4" height="4" patternUnits="userSpaceOnUse">
        <path d="M0 1H4" className="hatch hatch-dwell" />
      </pattern>
      <pattern id="ran-probe" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M3 0V6M0 3H6" className="hatch hatch-probe" />
      </pattern>
    </defs>
  );
}
