/** Machines and people of a cell over one period: what runs by itself, what is served, who walks, waits, works. */
import type { CellRun } from "../api/client";
import { clockMs, type Span } from "./timeAxis";
import { TimeTicks } from "./TimeTicks";

const LEFT = 210;
const WIDTH = 1060;
const TOP = 20;
const ROW = 27;

const WORDS: Record<string, string> = {
  running: "runs by itself",
  served: "is unloaded and loaded",
  waiting: "waits",
  working: "works",
  walking: "walks",
  idle: "has nothing to do",
};

export function CellChart({ cell }: { cell: CellRun }) {
  const span: Span = [0, cell.period];
  const scale = (WIDTH - LEFT - 6) / Math.max(cell.period, 1e-6);
  const x = (t: number) => LEFT + t * scale;
  const height = TOP + cell.rows.length * ROW + 4;
  return (
    <svg
      className="cell-chart"
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={`Machines and people over ${clockMs(cell.period, 1)}, ${cell.pieces} pieces`}
    >
      <defs>
        <pattern id="cell-wait" width="5" height="5" patternUnits="userSpaceOnUse">
          <path d="M0 5L5 0" className="hatch" />
        </pattern>
      </defs>
      <TimeTicks span={span} x={x} top={TOP - 4} height={height} />
      {cell.rows.map((row, i) => (
        <g key={row.id}>
          <path d={`M0 ${TOP + (i + 1) * ROW}H${WIDTH}`} className="grid" />
          <text x={0} y={TOP + i * ROW + ROW / 2 + 4}>
            {row.name.length > 30 ? `${row.name.slice(0, 29)}…` : row.name}
          </text>
          {row.spans.map((one) => (
            <rect
              key={`${one.start} ${one.doing}`}
              className={`doing-${one.doing}`}
              x={x(one.start)}
              y={TOP + i * ROW + 3}
              width={Math.max((one.end - one.start) * scale - 0.4, 0.3)}
              height={ROW - 6}
            >
              <title>
                {`${row.name} ${WORDS[one.doing] ?? one.doing}${one.at && ` at ${one.at}`}, ${(one.end - one.start).toFixed(1)} s`}
              </title>
            </rect>
          ))}
        </g>
      ))}
    </svg>
  );
}
