/** The axes of prices each against quantity, both logarithmic. */
const TICKS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
const SOFT = { fill: "var(--ink-soft)", fontSize: 12 };

export const quantityAxis = (most: number) =>
  ({
    dataKey: "quantity",
    type: "number",
    scale: "log",
    domain: [1, "dataMax"],
    ticks: TICKS.filter((t) => t <= most),
    tick: SOFT,
    stroke: "var(--rule-strong)",
    label: { value: "pieces", position: "insideBottom", offset: -12, ...SOFT },
  }) as const;

export const PRICE_AXIS = {
  scale: "log",
  domain: ["auto", "auto"],
  tick: SOFT,
  stroke: "var(--rule-strong)",
  width: 54,
  tickFormatter: (v: number) => String(Math.round(v)),
} as const;

export const TOOLTIP = {
  background: "var(--sheet)",
  border: "1px solid var(--rule-strong)",
  borderRadius: 0,
};
