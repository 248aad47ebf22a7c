/** A load seen from above: travels, fixtures, stock, part, zeros. A rotary's sides are unrolled, one over the other. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { DrawingView, LayoutView, PieceView } from "../api/client";
import { pathOf } from "./LineDrawing";
import { snapped } from "./snap";

type Props = {
  load: LayoutView;
  /** Of each setup, seen from above. */
  drawings: Record<string, DrawingView | undefined>;
  /** What the frame of the travels is, in words. */
  travel: string;
  /** Left out where it is only looked at. */
  onMove?: (piece: PieceView, by: [number, number]) => void;
  /** By so many quarters, counter-clockwise. */
  onTurn?: (piece: PieceView, quarters: number) => void;
};

type Box = { x0: number; y0: number; x1: number; y1: number };

const KEYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

export function LoadPicture(props: Props) {
  const { load, drawings, onMove, onTurn } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ id: string; from: [number, number]; by: [number, number] } | null>(null);
  const sides: (number | null)[] = load.sides.length > 0 ? load.sides : [null];
  const frame = frameOf(load);
  const height = frame.y1 - frame.y0;
  const unit = Math.max((frame.x1 - frame.x0) / 160, (sides.length * height) / 100);
  const band = height + (sides.length > 1 ? 9 * unit : 0);
  const font = 3.6 * unit;

  function at(event: PointerEvent): [number, number] {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    if (!matrix) return [0, 0];
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return [point.x, -point.y];
  }

  function moving(piece: PieceView, event: PointerEvent): [number, number] {
    if (!drag) return [0, 0];
    const [x, y] = at(event);
    const others = load.pieces.filter((one) => one.id !== piece.id && one.side === piece.side);
    const place = (axis: 0 | 1, by: number) =>
      snapped(
        piece.shift[axis] + by,
        others.map((one) => one.shift[axis]),
      ) - piece.shift[axis];
    return [place(0, x - drag.from[0]), place(1, y - drag.from[1])];
  }

  function drop(piece: PieceView) {
    if (drag && (drag.by[0] !== 0 || drag.by[1] !== 0)) onMove?.(piece, drag.by);
    setDrag(null);
  }

  function onKey(piece: PieceView, event: KeyboardEvent) {
    if (event.key.toLowerCase() === "r" && onTurn && !event.altKey && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      onTurn(piece, event.shiftKey ? 3 : 1);
      return;
    }
    const step = KEYS[event.key];
    if (!step || !movable || event.altKey || event.ctrlKey) return;
    event.preventDefault();
    const far = event.shiftKey ? 10 : 1;
    onMove?.(piece, [far * step[0], far * step[1]]);
  }

  const pad = 4 * unit;
  const kinds = new Map([...load.setups, ...load.turned].map((one) => [nameOf(one), kindOf(one)]));
  const movable = load.pieces.length > 1 && onMove !== undefined && load.pieces.every((one) => !one.in_bar);
  const focusable = movable || onTurn !== undefined;
  return (
    <svg
      ref={svg}
      className="load-picture"
      role="group"
      aria-label={`${load.pieces.length} pieces from above`}
      viewBox={`${frame.x0 - pad} ${-frame.y1 - pad} ${frame.x1 - frame.x0 + 2 * pad} ${(sides.length - 1) * band + height + 2 * pad}`}
      style={{ fontSize: font }}
    >
      {sides.map((side, k) => (
        <g key={String(side)} transform={`translate(0 ${k * band})`}>
          {side === null ? (
            !load.spins && <Frame load={load} unit={unit} words={props.travel} />
          ) : (
            <text className="side-name" x={frame.x0} y={-frame.y1 - 1.5 * unit}>
              {side}°
            </text>
          )}
          {load.setups
            .flatMap((one) => one.solids.filter((s) => s.shared))
            .map((s, i) => (
              <Rect key={i} what={s.what} low={s.low} high={s.high} />
            ))}
          {load.pieces
            .filter((piece) => piece.side === side)
            .map((piece) => {
              const by = drag?.id === piece.id ? drag.by : [0, 0];
              const [x, y] = [piece.shift[0] + (by[0] ?? 0), piece.shift[1] + (by[1] ?? 0)];
              const kind = kinds.get(nameOf(piece));
              if (!kind) return null;
              const { own, stock, drawn } = kind;
              const drawing = drawings[piece.setup];
              const mark = Math.min(2.6 * unit, 0.14 * (stock.y1 - stock.y0));
              const [zx, zy] = [piece.zero[0] - piece.shift[0], piece.zero[1] - piece.shift[1]];
              return (
                <g
                  key={piece.id}
                  className={`piece${piece.skipped ? " skipped" : ""}${piece.trouble ? " troubled" : ""}`}
                  role={focusable ? "button" : "img"}
                  tabIndex={focusable ? 0 : undefined}
                  aria-label={focusable ? undefined : `Piece ${piece.id}, ${piece.offset || "no offset"}`}
                  transform={`translate(${x} ${-y})`}
                  onPointerDown={(event) => {
                    if (!movable) return;
                    event.currentTarget.setPointerCapture(event.pointerId);
                    setDrag({ id: piece.id, from: at(event), by: [0, 0] });
                  }}
                  onPointerMove={(event) => {
                    if (drag?.id === piece.id) setDrag({ ...drag, by: moving(piece, event) });
                  }}
                  onPointerUp={() => drop(piece)}
                  onKeyDown={(event) => onKey(piece, event)}
                >
                  {[...(piece.in_bar === 1 ? (load.joined?.solids ?? []) : []), ...own].map((s, i) => (
                    <Rect key={i} what={s.what} low={s.low} high={s.high} />
                  ))}
                  {drawing && drawn && (
                    <g transform={`translate(${drawn[0]} ${-drawn[1]}) rotate(${-piece.turn})`}>
                      <path className="part-visible" d={drawing.visible.map(pathOf).join("")} />
                    </g>
                  )}
                  {piece.trouble && <title>{`Piece ${piece.id}: ${piece.trouble}`}</title>}
                  <g className="zero-mark" transform={`translate(${zx} ${-zy})`}>
                    <path d={`M${-mark} 0H${mark}M0 ${-mark}V${mark}`} />
                    <circle r={mark / 2} />
                  </g>
                  <Words
                    piece={piece}
                    setup={load.setups.length > 1 ? piece.setup : ""}
                    stock={stock}
                    font={font}
                  />
                </g>
              );
            })}
        </g>
      ))}
    </svg>
  );
}

/** What a piece stands as: its setup, turned as it is. */
function nameOf(one: { setup: string; turn: number }): string {
  return `${one.setup} ${one.turn}`;
}

type Kind = { own: Solid[]; stock: Box; drawn: [number, number] | null };
type Solid = LayoutView["setups"][number]["solids"][number];

/** What stands with each piece of a setup, the highest last. */
function kindOf(one: LayoutView["setups"][number]): Kind {
  return {
    own: one.solids.filter((s) => !s.shared).sort((a, b) => a.high[2] - b.high[2]),
    stock: boundsOf(one.solids.filter((s) => s.what === "stock")),
    drawn: one.drawn,
  };
}

/** A piece's number and its offset below it, as large as goes into its stock. */
function Words(props: { piece: PieceView; setup: string; stock: Box; font: number }) {
  const { piece, setup, stock, font } = props;
  const offset = piece.offset || "none left";
  const [wide, high] = [stock.x1 - stock.x0, stock.y1 - stock.y0];
  const size = Math.min(font, (1.75 * wide) / offset.length, 0.36 * high);
  const x = (stock.x0 + stock.x1) / 2;
  const y = stock.y0 + 0.04 * high;
  return (
    <g className="piece-name">
      <text x={x} y={-y - 1.15 * size} textAnchor="middle" style={{ fontSize: size }}>
        {piece.id}
        {setup && ` · ${setup}`}
      </text>
      <text x={x} y={-y - 0.15 * size} textAnchor="middle" style={{ fontSize: size }}>
        {offset}
      </text>
    </g>
  );
}

function Rect({ what, low, high }: { what: string; low: number[]; high: number[] }) {
  const [x0 = 0, y0 = 0] = low;
  const [x1 = 0, y1 = 0] = high;
  return <rect className={`box-${what}`} x={x0} y={-y1} width={x1 - x0} height={y1 - y0} />;
}

function Frame({ load, unit, words }: { load: LayoutView; unit: number; words: string }) {
  const [[x0, x1], [y0, y1]] = load.travel;
  return (
    <g className="travel">
      <rect x={x0} y={-y1} width={x1 - x0} height={y1 - y0} />
      <text x={x0} y={-y1 - 1.5 * unit}>
        {words}
      </text>
    </g>
  );
}

function boundsOf(solids: Solid[]): Box {
  return {
    x0: Math.min(...solids.map((s) => s.low[0])),
    y0: Math.min(...solids.map((s) => s.low[1])),
    x1: Math.max(...solids.map((s) => s.high[0])),
    y1: Math.max(...solids.map((s) => s.high[1])),
  };
}

/** What has to be in the picture: the travels of a table, all that stands, dragged or not. */
function frameOf(load: LayoutView): Box {
  const solids = new Map([...load.setups, ...load.turned].map((one) => [nameOf(one), one.solids]));
  const boxed = (s: Solid, [x, y]: [number, number]): Box => ({
    x0: s.low[0] + x,
    y0: s.low[1] + y,
    x1: s.high[0] + x,
    y1: s.high[1] + y,
  });
  const shared = load.setups.flatMap((one) => one.solids.filter((s) => s.shared));
  const boxes: Box[] = load.pieces.flatMap((piece) =>
    [...(solids.get(nameOf(piece)) ?? []), ...(piece.in_bar === 1 ? (load.joined?.solids ?? []) : [])]
      .filter((s) => !s.shared)
      .map((s) => boxed(s, piece.shift)),
  );
  boxes.push(...shared.map((s) => boxed(s, [0, 0])));
  if (load.sides.length === 0 && !load.spins) {
    const [[x0, x1], [y0, y1]] = load.travel;
    boxes.push({ x0, y0, x1, y1 });
  }
  return {
    x0: Math.min(...boxes.map((b) => b.x0)),
    y0: Math.min(...boxes.map((b) => b.y0)),
    x1: Math.max(...boxes.map((b) => b.x1)),
    y1: Math.max(...boxes.map((b) => b.y1)),
  };
}
