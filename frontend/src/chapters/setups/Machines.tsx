/** The plan on each machine of the shop: what changes in time, money and findings, before it is moved there. */
import { Table } from "react-bootstrap";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type OnMachineView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Machines() {
  const { plan } = useDesk();
  const found = useQuery({
    queryKey: ["machines", plan.plan_id, plan.edition],
    queryFn: () => api.machines(plan.plan_id),
    placeholderData: keepPreviousData,
  });
  return (
    <>
      <h2>
        On which machine <span>all setups there, computed again</span>
      </h2>
      {found.data ? (
        <Table bsPrefix="ledger-table" className="machines-table">
          <thead>
            <tr>
              <th>Machine</th>
              <th className="n">an hour</th>
              <th className="n">cycle, min:s</th>
              <th className="n">± s</th>
              <th className="n">each at {plan.quantities[0]}</th>
              <th className="n">±</th>
              <th>Findings</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {found.data.machines.map((one) => (
              <Row key={one.id} one={one} />
            ))}
          </tbody>
        </Table>
      ) : (
        <p className="soft">{found.error ? found.error.message : "Computing the plan on every machine …"}</p>
      )}
    </>
  );
}

function Row({ one }: { one: OnMachineView }) {
  const { change } = useDesk();
  const each = one.each_change === null ? 0 : Number(one.each_change);
  return (
    <tr className={one.current ? "sel" : undefined}>
      <td>
        <b>{one.name}</b> <span className="soft">{one.axes}</span>
      </td>
      <td className="n">{one.rate}</td>
      {one.refused || one.cycle === null ? (
        <td colSpan={6} className="soft">
          {one.refused}
        </td>
      ) : (
        <>
          <td className="n">{clock(one.cycle)}</td>
          <td className="n">{one.current ? "–" : signed(one.cycle_change ?? 0, 1)}</td>
          <td className="n">{one.each}</td>
          <td className="n">{one.current ? "–" : signed(each, 2)}</td>
          <td>
            <Titles titles={one.come} words="new" />
            <Titles titles={one.gone} words="gone" />
            {one.come.length + one.gone.length === 0 && "as now"}
          </td>
          <td>
            {one.current ? (
              "here now"
            ) : (
              <button
                type="button"
                className="act quiet"
                aria-label={`Move there: ${one.name}`}
                onClick={() => void change({ change: "move-to-machine", machine: one.id })}
              >
                move there
              </button>
            )}
          </td>
        </>
      )}
    </tr>
  );
}

/** How many, opened to their titles. */
export function Titles({ titles, words }: { titles: string[]; words: string }) {
  if (titles.length === 0) return null;
  return (
    <details className="changed">
      <summary>
        {titles.length} {words}
      </summary>
      <ul>
        {titles.map((title) => (
          <li key={title}>{title}</li>
        ))}
      </ul>
    </details>
  );
}

function signed(value: number, digits: number): string {
  const text = fixed(Math.abs(value), digits);
  return Number(text) === 0 ? "0" : `${value > 0 ? "+" : "−"}${text}`;
}
