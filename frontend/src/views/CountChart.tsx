/** Seconds of each piece against the number in a load, and the price beside them; each on its own scale. */
import type { CountView } from "../api/client";

const [WIDE, HIGH, LEFT, LOW] = [360, 130, 34, 20];

export function CountChart(props: {
  points: CountView[];
  now: number;
  knee: number | null;
  quantity: number;
  onTake: (point: CountView) => void;
}) {
  const { points, now, knee, quantity, onTake } = props;
  const most = Math.max(...points.map((p) => p.pieces), 2);
  const seconds = points.map((p) => p.seconds);
  const prices = points.map((p) => Number(p.each[quantity] ?? 0));
  const x = (pieces: number) => LEFT + ((pieces - 1) / (most - 1)) * (WIDE - LEFT - 56);
  const scaled = (values: number[]) => {
    const top = Math.max(...values) * 1.05;
    return (value: number) => HIGH - LOW - (top > 0 ? (value / top) * (HIGH - LOW - 12) : 0);
  };
  const [y, money] = [scaled(seconds), scaled(prices)];
  const line = (ys: number[]) => points.map((p, k) => `${k ? "L" : "M"}${x(p.pieces)} ${ys[k]}`).join("");
  const last = points.length - 1;
  const told = spaced(points, x);
  return (
    <svg
      className="count-chart"
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="group"
      aria-label="Seconds and price each by count"
    >
      <path className="axis" d={`M${LEFT} 6V${HIGH - LOW}H${WIDE - 50}`} />
      <text x={LEFT - 4} y={12} textAnchor="end">
        {Math.round(Math.max(...seconds))} s
      </text>
      <text x={LEFT - 4} y={HIGH - LOW + 3} textAnchor="end">
        0
      </text>
      <path className="price-line" d={line(prices.map(money))} />
      <path className="seconds-line" d={line(seconds.map(y))} />
      {last >= 0 && (
        <>
          <text x={x(most) + 6} y={y(seconds[last] ?? 0) + 4} className="seconds-word">
            seconds
          </text>
          <text
            x={x(most) + 6}
            y={spread(money(prices[last] ?? 0), y(seconds[last] ?? 0)) + 4}
            className="price-word"
          >
            price
          </text>
        </>
      )}
      {points.map((p) => (
        <g
          key={p.pieces}
          role="button"
          tabIndex={0}
          aria-label={`${p.pieces} pieces, ${p.seconds.toFixed(1)} s each`}
          className={p.pieces === now ? "now" : p.stopped ? "stopped" : undefined}
          onClick={() => onTake(p)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" && event.key !== " ") return;
            event.preventDefault();
            onTake(p);
          }}
        >
          <circle cx={x(p.pieces)} cy={y(p.seconds)} r={p.pieces === knee ? 5 : 3.5} />
          {told.has(p.pieces) && (
            <text x={x(p.pieces)} y={HIGH - 6} textAnchor="middle">
              {p.pieces}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}

/** Two words that would stand on one another stand one below the other. */
function spread(one: number, other: number): number {
  return Math.abs(one - other) < 12 ? other + 12 : one;
}

const APART = 15; // between the numbers along the axis

/** The counts that there is room to write, the last one always. */
function spaced(points: CountView[], x: (pieces: number) => number): Set<number> {
  const found = new Set<number>();
  let next = Infinity;
  for (const { pieces } of [...points].reverse())
    if (next - x(pieces) >= APART) {
      found.add(pieces);
      next = x(pieces);
    }
  return found;
}
