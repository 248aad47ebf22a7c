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

export const TONES = ["var(--cut)", "var(--debit)", "var(--index)", "var(--change)", "var(--spindle)"];
const DASHES = ["", "7 3", "2 3", "9 3 2 3", "4 2"]; // told apart without colour as well
const SOFT = { fill: "var(--ink-soft)", fontSize: 12 };

export function PlansChart(props: {
  names: string[];
  curve: { quantity: number; each: number[] }[];
  stretches: { first: number; last: number; least: number[] }[];
}) {
  const { names, curve, stretches } = props;
  const most = Math.max(...curve.map((p) => p.quantity));
  const ticks = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000].filter((t) => t <= most);
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
          <XAxis
            dataKey="quantity"
            type="number"
            scale="log"
            domain={[1, "dataMax"]}
            ticks={ticks}
            tick={SOFT}
            stroke="var(--rule-strong)"
            label={{ value: "pieces", position: "insideBottom", offset: -12, ...SOFT }}
          />
          <YAxis
            scale="log"
            domain={["auto", "auto"]}
            tick={SOFT}
            stroke="var(--rule-strong)"
            width={50}
            tickFormatter={(v: number) => String(Math.round(v))}
          />
          <Tooltip
            formatter={(value, name) => [Number(value).toFixed(2), name]}
            labelFormatter={(q) => `${String(q)} pieces, each`}
            contentStyle={{
              background: "var(--sheet)",
              border: "1px solid var(--rule-strong)",
              borderRadius: 0,
            }}
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
