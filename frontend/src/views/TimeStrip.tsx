/** One lane per tool, the cycle from left to right: when each tool cuts, and when it is changed. */
export type StripBlock = {
  id: string;
  lane: string;
  start: number;
  change: number;
  seconds: number;
  label: string;
};

const WIDE = { left: 178, width: 1060, letters: 27, marks: 11 };
const NARROW = { left: 132, width: 390, letters: 20, marks: 5 }; // beside something else
const TOP = 18;

export function TimeStrip(props: {
  blocks: StripBlock[];
  total: number;
  chosen?: string | null;
  onChoose?: (id: string) => void;
  label?: string;
  narrow?: boolean;
}) {
  const { blocks, total, chosen, onChoose, label = "The cycle by tool, over time" } = props;
  const { left, width, letters, marks: most } = props.narrow ? NARROW : WIDE;
  const lanes = [...new Set(blocks.map((b) => b.lane))];
  const lane = lanes.length > 7 || props.narrow ? 19 : 25;
  const scale = (width - left - 8) / Math.max(total, 1);
  const x = (t: number) => left + t * scale;
  const step = [5, 10, 15, 30, 60, 120, 300, 600].find((s) => total / s <= most) ?? 900;
  const marks = Array.from({ length: Math.floor(total / step) + 1 }, (_, i) => i * step);
  const height = TOP + lanes.length * lane + 4;
  return (
    <svg className="timestrip" viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label}>
      {marks.map((t) => (
        <g key={t}>
          <path d={`M${x(t)} ${TOP - 4}V${height}`} className="grid" />
          <text x={x(t)} y={10} textAnchor="middle" className="soft">
            {Math.floor(t / 60)}:{String(t % 60).padStart(2, "0")}
          </text>
        </g>
      ))}
      {lanes.map((name, i) => (
        <g key={name}>
          <path d={`M0 ${TOP + (i + 1) * lane}H${width}`} className="grid" />
          <text x={0} y={TOP + i * lane + lane / 2 + 4}>
            {name.length > letters ? `${name.slice(0, letters - 1)}…` : name}
          </text>
        </g>
      ))}
      {blocks.map((b) => {
        const y = TOP + lanes.indexOf(b.lane) * lane + 3;
        return (
          <g
            key={b.id}
            onClick={() => onChoose?.(b.id)}
            className={b.id === chosen ? "block chosen" : "block"}
          >
            <title>{`${b.label}: ${b.seconds.toFixed(1)} s${b.change ? `, after a change of ${b.change.toFixed(1)} s` : ""}`}</title>
            {b.change > 0 && (
              <rect
                className="change"
                x={x(b.start)}
                y={y}
                width={Math.max(b.change * scale - 0.5, 1)}
                height={lane - 6}
              />
            )}
            <rect
              className="work"
              x={x(b.start + b.change)}
              y={y}
              width={Math.max(b.seconds * scale - 0.8, 1)}
              height={lane - 6}
            />
          </g>
        );
      })}
    </svg>
  );
}
