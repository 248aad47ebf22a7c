/** How measures, directions and runs of ids are written. */
import type { MeasureView } from "../../api/client";
import { areaText, fixed, lengthText, type Unit } from "../../shell/numbers";

export function measureText(m: Pick<MeasureView, "value" | "unit">, unit: Unit): string {
  if (m.unit === "mm")
    return lengthText(m.value, unit, Number.isInteger(Math.round(m.value * 1000) / 1000) ? 0 : 2);
  if (m.unit === "mm2") return `${areaText(m.value, unit)} ${unit === "mm" ? "mm²" : "in²"}`;
  if (m.unit === "deg") return `${fixed(m.value, 0)}°`;
  return fixed(m.value, 2);
}

export function directionName(d: readonly number[]): string {
  const names = ["X", "Y", "Z"];
  const i = d.findIndex((c) => Math.abs(Math.abs(c) - 1) < 1e-3);
  return i < 0 ? `(${d.map((c) => fixed(c, 2)).join(", ")})` : `${names[i]}${(d[i] ?? 0) > 0 ? "+" : "−"}`;
}

/** The sides by name; slanted ways in full only where there is no side. */
export function waysText(access: readonly (readonly number[])[]): string {
  const along = access.filter((d) => d.some((c) => Math.abs(Math.abs(c) - 1) < 1e-3));
  const slanted = access.length - along.length;
  if (along.length === 0) return access.map(directionName).join(", ");
  const named = along.map(directionName).join(", ");
  return slanted > 0 ? `${named} and ${slanted} slanted` : named;
}

/** H1 – H6 for a run, else the ids themselves. */
export function span(ids: string[]): string {
  if (ids.length < 3) return ids.join(", ");
  return `${ids[0]} – ${ids[ids.length - 1]}`;
}
