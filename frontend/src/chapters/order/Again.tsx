/** Why a step's tool is called again, and what it would take to avoid that: each way tried out on the whole plan. */
import { useQuery } from "@tanstack/react-query";
import { api, type StepView } from "../../api/client";
import { fixed, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

type Props = { load: string; step: StepView; onDone: () => void };

export function Again({ load, step, onDone }: Props) {
  const { plan, change, busy } = useDesk();
  const found = useQuery({
    queryKey: ["ways-around", plan.plan_id, plan.edition, load, step.piece, step.operation],
    queryFn: ({ signal }) => api.waysAround(plan.plan_id, load, step.piece, step.operation, signal),
    staleTime: Infinity,
    retry: false,
  });
  async function take(changes: NonNullable<typeof found.data>[number]["changes"]) {
    for (const one of changes) if (!(await change(one))) return;
    onDone();
  }
  return (
    <div role="group" aria-label={`Why T${step.tool} is called again`}>
      <p>{capital(step.again)}.</p>
      {found.error && <p className="debit">{found.error.message}</p>}
      {!found.data && !found.error && <p className="soft">Trying what would avoid it …</p>}
      {found.data?.length === 0 && (
        <p className="soft">No other tool and no other setup of this plan does it with fewer calls.</p>
      )}
      {found.data?.map((way) => (
        <p key={way.title}>
          {capital(way.title)}: {way.calls} tool calls a cycle, {gain(way.saving)}, {money(Number(way.each))}{" "}
          each{" "}
          <button
            type="button"
            className="act quiet"
            disabled={busy}
            aria-label={`Take: ${way.title}`}
            onClick={() => void take(way.changes)}
          >
            Take
          </button>
        </p>
      ))}
    </div>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const gain = (seconds: number) => `${fixed(Math.abs(seconds), 1)} s ${seconds < 0 ? "more" : "less"} a piece`;
const money = (each: number) => `${moneyText(String(Math.abs(each)))} ${each < 0 ? "more" : "less"}`;
