/** Both ends of a turned part in one load: on each lathe with a counter spindle, with what it saves. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { api, type BothEndsView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function BothEnds() {
  const { plan, change } = useDesk();
  const found = useQuery({
    queryKey: ["both-ends", plan.plan_id, plan.edition],
    queryFn: ({ signal }) => api.bothEnds(plan.plan_id, signal),
    staleTime: Infinity,
    retry: false,
  });
  const { offers = [], quantities = [] } = found.data ?? {};
  const able = offers.filter((one) => !one.refused);
  const refused = offers.filter((one) => one.refused);
  if (found.data && able.length === 0) return null;
  return (
    <section aria-label="Both ends in one load">
      <h2>
        Both ends in one load <span>a counter spindle takes each piece over</span>
      </h2>
      {found.isFetching && <p className="soft">Trying lathes with a counter spindle …</p>}
      {found.error && <p className="debit">{found.error.message}</p>}
      {able.length > 0 && (
        <Table bsPrefix="ledger-table">
          <thead>
            <tr>
              <th>On</th>
              <th className="n">s each</th>
              {quantities.map((quantity) => (
                <th key={quantity} className="n" title={`Price each of ${quantity}, against now`}>
                  each of {quantity}
                </th>
              ))}
              <th aria-label="Take it" />
            </tr>
          </thead>
          <tbody>
            {able.map((one) => (
              <tr key={one.machine}>
                <td>
                  {one.name}
                  {one.errors.map((words) => (
                    <div key={words} className="debit">
                      {words}
                    </div>
                  ))}
                </td>
                <Less value={one.seconds} digits={1} />
                {one.each.map((value, k) => (
                  <Less key={k} value={value} digits={2} />
                ))}
                <td>
                  <button type="button" className="act" onClick={() => void change(one.change)}>
                    Take it
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <Refused of={refused} />
    </section>
  );
}

function Less({ value, digits }: { value: number; digits: number }) {
  return (
    <td className={`n ${value <= 0 ? "credit" : "debit"}`}>
      {value > 0 ? "+" : value < 0 ? "−" : ""}
      {fixed(Math.abs(value), digits)}
    </td>
  );
}

/** Each reason once, however many lathes have it. */
function Refused({ of }: { of: BothEndsView[] }) {
  const reasons = [...new Set(of.map((one) => one.refused))];
  return reasons.map((why) => (
    <p key={why} className="soft">
      Not on{" "}
      {of
        .filter((one) => one.refused === why)
        .map((one) => one.name)
        .join(" and ")}
      : {why}.
    </p>
  ));
}
