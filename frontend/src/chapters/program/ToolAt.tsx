/** The tool of an operation where it is at a time of the cycle, with its way so far. */
import { useQuery } from "@tanstack/react-query";
import { api, type PlayView } from "../../api/client";
import { useDesk } from "../../shell/plan";
import type { Spot } from "../../views/Model3D";
import { MovingTool, Trail } from "../../views/PlayScene";

type Entry = PlayView["entries"][number];
type ToolWay = Awaited<ReturnType<typeof api.toolWay>>;
type Where = { at: Spot; index: number; rapid: boolean };

export function ToolAt({ entry, at }: { entry: Entry; at: number }) {
  const { way, here } = useToolAt(entry, at);
  if (!way || !here) return null;
  return (
    <>
      <Trail way={way} upTo={here.index} />
      <MovingTool way={way} at={here.at} />
    </>
  );
}

export function useToolAt(entry: Entry, at: number): { way: ToolWay | undefined; here: Where | null } {
  const { plan } = useDesk();
  const { data: way } = useQuery({
    queryKey: ["tool-way", plan.plan_id, plan.edition, entry.operation],
    queryFn: () => api.toolWay(plan.plan_id, entry.operation),
    staleTime: Infinity,
  });
  return { way, here: way ? placeAt(way, at - entry.start - entry.lead) : null };
}

/** Where the tip is at a time; before its first move it stands there. */
function placeAt(way: ToolWay, time: number): Where {
  const { times, points } = way;
  const point = (i: number): Spot => [points[3 * i] ?? 0, points[3 * i + 1] ?? 0, points[3 * i + 2] ?? 0];
  let low = 0;
  let high = times.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? 0) <= time) low = middle;
    else high = middle;
  }
  const a = times[low] ?? 0;
  const b = times[high] ?? 0;
  const share = b > a ? Math.max(0, Math.min(1, (time - a) / (b - a))) : 0;
  const from = point(low);
  const to = point(high);
  const at = from.map((v, i) => v + ((to[i] ?? v) - v) * share) as Spot;
  return { at, index: low, rapid: way.rapid[high] ?? true };
}
