/** Ticks of a span of time over a drawing's height, each with its clock. */
import { clockMs, ticksOf, type Span } from "./timeAxis";

export function TimeTicks(props: { span: Span; x: (t: number) => number; top: number; height: number }) {
  const { span, x, top, height } = props;
  const { at, digits } = ticksOf(span);
  return at.map((t) => (
    <g key={t}>
      <path d={`M${x(t)} ${top}V${height}`} className="grid" />
      <text x={x(t)} y={11} textAnchor="middle" className="soft">
        {clockMs(t, digits)}
      </text>
    </g>
  ));
}
