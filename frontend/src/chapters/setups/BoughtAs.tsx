/** The plan from every other form of stock that dealers keep, however it lies, each one click away. */
import { useState } from "react";
import { Table } from "react-bootstrap";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type BoughtAsView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Titles } from "./Machines";

export function BoughtAs() {
  const { plan } = useDesk();
  const [asked, setAsked] = useState(false); // each form is a plan of its own: not with each change
  const found = useQuery({
    queryKey: ["bought-as", plan.plan_id, plan.edition],
    queryFn: () => api.boughtAs(plan.plan_id),
    placeholderData: keepPreviousData,
    enabled: asked,
  });
  if (!asked)
    return (
      <p className="cures">
        <button type="button" className="act quiet" onClick={() => setAsked(true)}>
          Compare with what else it could be bought as
        </button>
      </p>
    );
  if (!found.data)
    return (
      <p className="soft" role="status">
        {found.error ? found.error.message : "Computing the plan from other stock …"}
      </p>
    );
  const { now, kg, each, others } = found.data;
  return (
    <>
      <h2>
        Bought otherwise <span>of the dealers&apos; sizes, mm; the least first</span>
      </h2>
      <Table bsPrefix="ledger-table" className="machines-table">
        <thead>
          <tr>
            <th>From</th>
            <th className="n">kg</th>
            <th className="n">each at {plan.quantities[0]}</th>
            <th className="n">±</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr className="sel">
            <td>
              <b>{now}</b>
            </td>
            <td className="n">{fixed(kg, 3)}</td>
            <td className="n">{each}</td>
            <td />
            <td>this plan</td>
          </tr>
          {others.map((one) => (
            <Row key={`${one.named} ${one.stays}`} one={one} />
          ))}
        </tbody>
      </Table>
    </>
  );
}

function Row({ one }: { one: BoughtAsView }) {
  const change = Number(one.each_change);
  const more = one.kg_more < 0.0005 ? "as much to buy and to cut" : "only more to buy and to cut";
  const without = one.only_more ? more : "not tried, it would take too long";
  return (
    <tr>
      <td>
        {one.named}
        {one.stays && <span className="soft">, {one.stays} as bought</span>}
        {one.left.length > 0 && <Titles titles={one.left} words="to solve" />}
      </td>
      <td className="n">{fixed(one.kg, 3)}</td>
      {one.each === null ? (
        <td colSpan={2} className="soft">
          {without}
        </td>
      ) : (
        <>
          <td className="n">{one.each}</td>
          <td className="n">{`${change > 0 ? "+" : ""}${fixed(change, 2)}`}</td>
        </>
      )}
      <td>
        <Take one={one} />
      </td>
    </tr>
  );
}

function Take({ one }: { one: BoughtAsView }) {
  const { change } = useDesk();
  return (
    <button
      type="button"
      className="act quiet"
      aria-label={`Buy ${one.named}${one.stays ? `, ${one.stays} as bought` : ""}`}
      onClick={() =>
        void change({
          change: "set-stock",
          form: one.form,
          along: one.along ?? "by the rule",
          sizing: one.sizing,
          stay: one.stay,
        })
      }
    >
      buy that
    </button>
  );
}
