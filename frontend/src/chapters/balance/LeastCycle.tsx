/** The least cycle over all carriages, searched for, with its bound. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type BalancedLoadView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

const SECONDS = 10;

export function LeastCycle({ load }: { load: BalancedLoadView }) {
  const { plan, change } = useDesk();
  const question = `${plan.edition} ${load.load}`;
  const [asked, setAsked] = useState("");
  const found = useQuery({
    queryKey: ["least-cycle", plan.plan_id, question],
    queryFn: ({ signal }) => api.leastCycle(plan.plan_id, load.load, SECONDS, signal),
    enabled: asked === question,
    staleTime: Infinity,
    retry: false,
  });
  const best = asked === question ? found.data : undefined;
  const saves = best ? best.now - best.cycle : 0;
  return (
    <>
      <h2>
        The least cycle <span>carriages, speeds and order together</span>
      </h2>
      <p className="cures">
        <button
          type="button"
          className="act"
          disabled={asked === question && found.isFetching}
          onClick={() => setAsked(question)}
        >
          Find the least cycle
        </button>
      </p>
      {asked === question && found.isFetching && <p className="soft">Looking …</p>}
      {asked === question && found.error && <p className="debit">{found.error.message}</p>}
      {best && (
        <p role="status">
          {saves < 0.05 ? (
            <>Nothing shorter than {fixed(best.now, 1)} s was found; </>
          ) : (
            <>
              <b>{fixed(best.cycle, 1)} s</b> in place of {fixed(best.now, 1)} s, {fixed(best.each, 2)} each
              less;{" "}
            </>
          )}
          {best.proven ? "none is shorter." : `none has less than ${fixed(best.bound, 1)} s.`}{" "}
          {saves >= 0.05 && (
            <button type="button" className="act" onClick={() => void change(best.change)}>
              Take it
            </button>
          )}
        </p>
      )}
    </>
  );
}
