/** A line drawing in SVG from polylines in mm, y upward. */
type Line = [number, number][];

export function pathOf(line: readonly (readonly number[])[]): string {
  return line.map((p, i) => `${i ? "L" : "M"}${p[0]} ${-(p[1] ?? 0)}`).join("");
}

export function LineDrawing({
  lines,
  label,
  className,
}: {
  lines: Line[];
  label: string;
  className?: string;
}) {
  const points = lines.flat();
  if (points.length === 0) return <svg className={className} role="img" aria-label={label} />;
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => -p[1]);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const pad = 0.04 * Math.max(x1 - x0, y1 - y0);
  return (
    <svg
      className={className}
      viewBox={`${x0 - pad} ${y0 - pad} ${x1 - x0 + 2 * pad} ${y1 - y0 + 2 * pad}`}
      role="img"
      aria-label={label}
    >
      <path
        d={lines.map(pathOf).join("")}
        fill="none"
        stroke="currentColor"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
