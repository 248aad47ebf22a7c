/** Single steps that shorten the cycle, each tried, with what it saves. */
import { useQuery } from "@tanstack/react-query";
import { api, type BalancedLoadView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Gains({ load }: { load: BalancedLoadView }) {
  const { plan, change } = useDesk();
  const found = useQuery({
    queryKey: ["gains", plan.plan_id, plan.edition, load.load],
    queryFn: ({ signal }) => api.gains(plan.plan_id, load.load, signal),
    staleTime: Infinity,
    retry: false,
  });
  return (
    <>
      <h2>
        The next step <span>one change each, as the cycle then runs</span>
      </h2>
      {found.isFetching && <p className="soft">Trying what would be shorter …</p>}
      {found.error && <p className="debit">{found.error.message}</p>}
      {found.data?.gains.length === 0 && <p>No single step shortens the cycle.</p>}
      {found.data?.gains.map((gain) => (
        <p key={gain.title} className="gain">
          {gain.title}: <b>−{fixed(gain.saves, 1)} s</b>, {fixed(gain.each, 2)} each{" "}
          <button type="button" className="act" onClick={() => void change(gain.change)}>
            Take it
          </button>
        </p>
      ))}
    </>
  );
}
