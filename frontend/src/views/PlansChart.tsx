/** The price each of several plans against quantity, both logarithmic; where the least changes is drawn through. */
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { PRICE_AXIS, quantityAxis, TOOLTIP } from "./priceAxes";

export const TONES = ["var(--cut)", "var(--debit)", "var(--index)", "var(--change)", "var(--spindle)"];
const DASHES = ["", "7 3", "2 3", "9 3 2 3", "4 2"]; // told apart without colour as well

export function PlansChart(props: {
  names: string[];
  curve: { quantity: number; each: number[] }[];
  stretches: { first: number; last: number; least: number[] }[];
}) {
  const { names, curve, stretches } = props;
  const most = Math.max(...curve.map((p) => p.quantity));
  const turns = stretches
    .slice(1)
    .map((one) => one.first)
    .filter((q) => q <= most);
  return (
    <div
      className="plans-chart"
      role="img"
      aria-label={`Price each of ${names.join(", ")} against quantity${turns.length ? `; the least changes at ${turns.join(", ")}` : ""}`}
    >
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={curve} margin={{ top: 16, right: 18, bottom: 22, left: 4 }}>
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis {...quantityAxis(most)} />
          <YAxis {...PRICE_AXIS} />
          <Tooltip
            formatter={(value, name) => [Number(value).toFixed(2), name]}
            labelFormatter={(q) => `${String(q)} pieces, each`}
            contentStyle={TOOLTIP}
          />
          {turns.map((quantity) => (
            <ReferenceLine
              key={quantity}
              x={quantity}
              stroke="var(--ink-soft)"
              strokeDasharray="2 3"
              label={{ value: quantity, position: "top", fill: "var(--ink)", fontSize: 12, fontWeight: 600 }}
            />
          ))}
          {names.map((name, k) => (
            <Line
              key={name}
              name={name}
              dataKey={(p: { each: number[] }) => p.each[k]}
              stroke={TONES[k]}
              strokeDasharray={DASHES[k]}
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
