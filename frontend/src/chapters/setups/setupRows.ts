/** What a setup makes, alike features together and the outline as one. */
import type { PlanView, SetupView } from "../../api/client";

export type SetupRow = { title: string; ids: string[]; seconds: number };

export function setupRows(plan: PlanView, setup: SetupView): SetupRow[] {
  const whole = ["outline", "turn"]
    .map((ending) => setup.entries.filter((e) => e.kind.endsWith(` ${ending}`)))
    .map((entries, i) => ({
      title: i === 0 ? "outline" : "outside, turned",
      ids: [...new Set(entries.flatMap((e) => e.features))],
      seconds: entries.reduce((sum, e) => sum + e.total, 0),
    }))
    .filter((row) => row.ids.length > 0);
  const outline = new Set(whole.flatMap((row) => row.ids));
  // sides that another setup has cut already are none of this one's work
  const done = new Set(
    plan.features
      .filter((f) => f.operations.length > 0 && !f.operations.some((id) => id.startsWith(`${setup.id}.`)))
      .map((f) => f.id),
  );
  const rows = plan.groups
    .map((g) => ({
      title: g.title,
      ids: g.ids.filter((id) => setup.features.includes(id) && !outline.has(id) && !done.has(id)),
    }))
    .filter((g) => g.ids.length > 0)
    .map((g) => ({
      ...g,
      seconds: setup.entries
        .filter((e) => e.features.length > 0 && e.features.every((id) => g.ids.includes(id)))
        .reduce((sum, e) => sum + e.total, 0),
    }));
  return [...rows, ...whole];
}

/** Walls that one pass goes along: they stay together. */
export function isWhole(row: SetupRow): boolean {
  return row.title === "outline" || row.title === "outside, turned";
}

export function rowTitle(row: SetupRow): string {
  if (isWhole(row)) return `${row.title}, ${row.ids.length} walls`;
  return `${row.ids.length > 1 ? `${row.ids.length} × ` : ""}${row.title} ${row.ids[0]}`;
}

/** Features that stand in no setup yet, alike ones together. */
export function parkedRows(plan: PlanView): SetupRow[] {
  return plan.groups
    .map((g) => ({ title: g.title, ids: g.ids.filter((id) => plan.parked.includes(id)), seconds: 0 }))
    .filter((g) => g.ids.length > 0);
}
