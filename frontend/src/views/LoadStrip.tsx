/** The load of a tool over its time in cut: a column for each operation, the limit that it comes nearest to as a line. */
import type { LoadView } from "../api/client";

export type Work = {
  operation: string;
  name: string;
  seconds: number;
  load: LoadView;
};

const WIDTH = 300;
const HEIGHT = 34;
const ROOM = 4; // above the limit

export function LoadStrip({ work, longest, label }: { work: Work[]; longest: number; label: string }) {
  const scale = WIDTH / Math.max(longest, 0.1);
  const tall = (share: number) => Math.min(1.1, share) * (HEIGHT - ROOM);
  const columns = work.map((one, i) => {
    const before = work.slice(0, i).reduce((sum, earlier) => sum + earlier.seconds, 0);
    return {
      ...one,
      x: before * scale,
      width: Math.max(1, one.seconds * scale - 0.6),
      share: one.load.share,
    };
  });
  const words = columns
    .map((one) => `${one.name} ${Math.round(100 * one.share)} % of ${one.load.nearest}`)
    .join(", ");
  return (
    <svg
      className="load-strip"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`${label}: ${words}`}
    >
      <path className="limit" d={`M0 ${ROOM}H${WIDTH}`} />
      <path className="floor" d={`M0 ${HEIGHT - 0.5}H${WIDTH}`} />
      {columns.map((one) => (
        <rect
          key={one.operation}
          className={one.share > 1.005 ? "over" : undefined}
          x={one.x}
          y={HEIGHT - Math.max(1, tall(one.share))}
          width={one.width}
          height={Math.max(1, tall(one.share))}
        >
          <title>
            {`${one.name}: ${one.seconds.toFixed(1)} s, ${Math.round(100 * one.share)} % of ${one.load.nearest}; ${one.load.power.toFixed(2)} of ${one.load.power_limit.toFixed(1)} kW, ${one.load.torque.toFixed(2)} N·m, ${one.load.force.toFixed(0)} N${one.load.bend > 0 ? `, bends ${one.load.bend.toFixed(3)}` : ""}`}
          </title>
        </rect>
      ))}
    </svg>
  );
}
