/** Price each against quantity, on a logarithmic axis; the quantities asked for are marked. */
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceDot,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { PRICE_AXIS, quantityAxis, TOOLTIP } from "./priceAxes";

export function PriceChart(props: {
  curve: { quantity: number; each: number }[];
  asked: { quantity: number; each: number }[];
}) {
  const { curve, asked } = props;
  const words = asked.map((p) => `${p.quantity}: ${p.each.toFixed(2)}`).join(", ");
  const most = Math.max(...curve.map((p) => p.quantity));
  return (
    <div className="price-chart" role="img" aria-label={`Price each against quantity. ${words}`}>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={curve} margin={{ top: 14, right: 26, bottom: 22, left: 8 }}>
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis {...quantityAxis(most)} />
          <YAxis {...PRICE_AXIS} />
          <Tooltip
            formatter={(value) => [Number(value).toFixed(2), "each"]}
            labelFormatter={(q) => `${String(q)} pieces`}
            contentStyle={TOOLTIP}
          />
          <Line dataKey="each" stroke="var(--cut)" strokeWidth={2} dot={false} isAnimationActive={false} />
          {asked.map((p) => (
            <ReferenceDot
              key={p.quantity}
              x={p.quantity}
              y={p.each}
              r={4.5}
              fill="var(--accent)"
              stroke="var(--sheet)"
              label={{
                value: p.each.toFixed(2),
                position: "top",
                fill: "var(--ink)",
                fontSize: 12,
                fontWeight: 600,
              }}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
