/** Sending the package to the machines' stand-in, and the run times that it answers with. */
import { useMutation } from "@tanstack/react-query";
import { api } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Sent({ setup }: { setup: string }) {
  const { plan } = useDesk();
  const send = useMutation({ mutationFn: () => api.sendPackage(plan.plan_id) });
  const runs = send.data?.runs.filter((r) => r.setup === setup) ?? [];
  return (
    <>
      <h2>
        On the floor <span>a simulated program server</span>
      </h2>
      <p className="cures">
        <button type="button" className="act" disabled={send.isPending} onClick={() => send.mutate()}>
          Send the package and run five cycles
        </button>
      </p>
      {send.error && <p className="finding">{send.error.message}</p>}
      {runs.map((run) => (
        <p key={run.program}>
          {run.machine} took {run.seconds.map((s) => clock(s)).join(", ")}: {clock(run.mean)} in the mean,{" "}
          {fixed(100 * run.over, 1)} % over the plan.
        </p>
      ))}
    </>
  );
}
