/** Plans column by column: what differs is lit, the least is marked; and the price of each against quantity. */
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Table } from "react-bootstrap";
import { alternatives } from "../../api/alternatives";
import type { SideBySideView, SideRow } from "../../api/client";
import { fixed, hoursText, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { PlansChart, TONES } from "../../views/PlansChart";

export function SideBySide({ plans, stamp }: { plans: number[]; stamp: string }) {
  const { plan } = useDesk();
  const found = useQuery({
    queryKey: ["side-by-side", plan.plan_id, plan.edition, plans, stamp],
    queryFn: ({ signal }) => alternatives.compared(plan.plan_id, plans, signal),
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  const shown = found.data;
  if (!shown)
    return (
      <p className="soft" role="status">
        {found.error ? found.error.message : "Putting the plans beside one another …"}
      </p>
    );
  return (
    <section aria-label="Side by side" aria-busy={found.isFetching}>
      <h2>
        The least price <span>looked at for every number of pieces up to {shown.most}</span>
      </h2>
      <p className="overtaken" data-testid="overtaken">
        {shown.words.slice(0, 1).toUpperCase() + shown.words.slice(1)}.
      </p>
      <PlansChart
        names={shown.names}
        curve={shown.curve.map((p) => ({ quantity: p.quantity, each: p.each.map(Number) }))}
        stretches={shown.stretches}
      />
      <Columns shown={shown} />
    </section>
  );
}

function Columns({ shown }: { shown: SideBySideView }) {
  const groups = [...new Set(shown.rows.map((row) => row.group))];
  return (
    <Table bsPrefix="ledger-table" className="beside-table">
      <thead>
        <tr>
          <th />
          {shown.names.map((name, k) => (
            <th key={name} className="n">
              <i className="swatch" style={{ background: TONES[k] }} aria-hidden="true" /> {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {groups.map((group) => (
          <Fragment key={group}>
            <tr className="group">
              <th scope="rowgroup" colSpan={shown.names.length + 1}>
                {group}
              </th>
            </tr>
            {shown.rows
              .filter((row) => row.group === group)
              .map((row) => (
                <tr key={row.name} className={row.differs ? "differs" : "alike"}>
                  <th scope="row">{row.name}</th>
                  {row.values.map((value, k) => (
                    <td
                      key={shown.plans[k]}
                      className={`${row.unit === "words" ? "words" : "n"}${row.best.includes(k) ? " least" : ""}`}
                    >
                      {textOf(row, value)}
                    </td>
                  ))}
                </tr>
              ))}
          </Fragment>
        ))}
      </tbody>
    </Table>
  );
}

function textOf(row: SideRow, value: string): string {
  switch (row.unit) {
    case "seconds":
      return fixed(Number(value), 1);
    case "hours":
      return hoursText(Number(value));
    case "machine hours":
      return fixed(Number(value), 1);
    case "each":
      return moneyText(value);
    default:
      return value;
  }
}
