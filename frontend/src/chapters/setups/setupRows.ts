/** What a setup makes, alike features together and the outline as one. */
import type { PlanView, SetupView } from "../../api/client";

export type SetupRow = { title: string; ids: string[]; seconds: number };

export function setupRows(plan: PlanView, setup: SetupView): SetupRow[] {
  const around = setup.entries.filter((e) => e.kind.endsWith("outline"));
  const outline = new Set(around.flatMap((e) => e.features));
  const rows = plan.groups
    .map((g) => ({
      title: g.title,
      ids: g.ids.filter((id) => setup.features.includes(id) && !outline.has(id)),
    }))
    .filter((g) => g.ids.length > 0)
    .map((g) => ({
      ...g,
      seconds: setup.entries
        .filter((e) => e.features.length > 0 && e.features.every((id) => g.ids.includes(id)))
        .reduce((sum, e) => sum + e.total, 0),
    }));
  if (!outline.size) return rows;
  return [
    ...rows,
    { title: "outline", ids: [...outline], seconds: around.reduce((sum, e) => sum + e.total, 0) },
  ];
}

export function rowTitle(row: SetupRow): string {
  if (row.title === "outline") return `outline, ${row.ids.length} walls`;
  return `${row.ids.length > 1 ? `${row.ids.length} × ` : ""}${row.title} ${row.ids[0]}`;
}
