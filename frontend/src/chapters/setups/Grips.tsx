/** All that the shop could hold a setup with: what holds, the best first, and why the rest does not. */
import { Table } from "react-bootstrap";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type GripView, type SetupView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Grips({ setup }: { setup: SetupView }) {
  const { plan } = useDesk();
  const [all, setAll] = useState(false);
  const found = useQuery({
    queryKey: ["grips", plan.plan_id, setup.id, plan.edition],
    queryFn: () => api.grips(plan.plan_id, setup.id),
    placeholderData: keepPreviousData,
  });
  const grips = found.data?.grips ?? [];
  const holding = grips.filter((grip) => grip.holds);
  const refused = grips.filter((grip) => !grip.holds);
  return (
    <>
      <h2>
        What could hold it{" "}
        <span>
          {holding.length} ways hold, {refused.length} do not
        </span>
      </h2>
      <Table bsPrefix="ledger-table" className="grips-table">
        <thead>
          <tr>
            <th>Held in</th>
            <th>turned</th>
            <th>by</th>
            <th className="n">safety</th>
            <th className="n">load s</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {(all ? grips : holding.slice(0, 4)).map((grip) => (
            <Row key={`${grip.fixture} ${grip.turn}`} grip={grip} setup={setup} />
          ))}
          {holding.length === 0 && !all && (
            <tr>
              <td colSpan={6}>Nothing of the shop holds it here; the reasons stand with each.</td>
            </tr>
          )}
        </tbody>
      </Table>
      <button type="button" className="act quiet" aria-expanded={all} onClick={() => setAll(!all)}>
        {all ? "Only the best" : "All, with the reasons of those that do not hold"}
      </button>
    </>
  );
}

function Row({ grip, setup }: { grip: GripView; setup: SetupView }) {
  const { change } = useDesk();
  return (
    <tr className={grip.current ? "sel" : undefined}>
      <td>{grip.name}</td>
      <td>{grip.turn}°</td>
      <td>
        {grip.holds ? grip.touches : null}
        {grip.reasons.map((reason) => (
          <span key={reason} className={grip.holds ? "caution reason" : "debit reason"}>
            {reason}
          </span>
        ))}
      </td>
      <td className="n">{grip.safety === null ? "–" : `${fixed(grip.safety, 1)} ×`}</td>
      <td className="n">{fixed(grip.load_seconds, 0)}</td>
      <td>
        {grip.current
          ? "now"
          : grip.holds && (
              <button
                type="button"
                className="act quiet"
                aria-label={`Take: ${grip.name}, turned ${grip.turn}°`}
                onClick={() =>
                  void change({
                    change: "set-hold",
                    setup: setup.id,
                    fixture: grip.fixture,
                    turn: grip.turn as 0 | 90 | 180 | 270,
                  })
                }
              >
                Take
              </button>
            )}
      </td>
    </tr>
  );
}
