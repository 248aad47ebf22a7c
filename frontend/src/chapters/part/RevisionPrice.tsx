/** What the revision that was taken over costs beside the one before: feature by feature, setup by setup, once. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Table } from "react-bootstrap";
import { Link } from "react-router";
import { alternatives } from "../../api/alternatives";
import type { RevisionPriceView } from "../../api/client";
import { FileLink } from "../../shell/FileLink";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, hoursText, moneyText, signed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function RevisionPrice() {
  const { plan } = useDesk();
  const found = useQuery({
    queryKey: ["revision-price", plan.plan_id, plan.edition],
    queryFn: () => alternatives.revisionPrice(plan.plan_id),
    placeholderData: (before) => before,
    retry: false,
  });
  const view = found.data;
  if (!view) return <p className="empty">{found.error ? found.error.message : "Pricing the revision …"}</p>;
  return (
    <div className="one-column revision-price">
      <h1>
        Revision {view.after} beside {view.before}, priced{" "}
        <small>
          {view.before} as the plan last made it, at line {view.line} of the journal; {view.after} as it
          stands
        </small>
      </h1>
      <p className="cures">
        <FileLink href={`/api/plans/${plan.plan_id}/papers/change-note.pdf`} main shown>
          Change note for the customer
        </FileLink>
        <Link to={`/plans/${plan.plan_id}/part/compare/${view.after}`}>The two models side by side</Link>
        <Link to={`/plans/${plan.plan_id}/part`}>Back to the part</Link>
      </p>
      <div className="two-halves">
        <section aria-label="Feature by feature">
          <Features view={view} />
          <Programs view={view} />
        </section>
        <section aria-label="Price">
          <Prices view={view} />
          <Setups view={view} />
          <Once view={view} />
        </section>
      </div>
    </div>
  );
}

function Features({ view }: { view: RevisionPriceView }) {
  const [all, setAll] = useState(false);
  const moved = (one: RevisionPriceView["features"][number]) => Math.abs(one.after - one.before) >= 0.05;
  const shown = view.features.filter((one) => all || one.became !== "same" || moved(one));
  const more = view.features.length - shown.length;
  return (
    <>
      <h2>
        Feature by feature <span>seconds of a piece, with the ways to its operations</span>
      </h2>
      <Table bsPrefix="ledger-table" className="revision-features">
        <thead>
          <tr>
            <th>Feature</th>
            <th>is</th>
            <th className="n">{view.before} s</th>
            <th className="n">{view.after} s</th>
            <th className="n">change s</th>
            <th className="n">run, each</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((one) => (
            <tr key={one.feature}>
              <td>
                <b>{one.feature}</b> {one.title}
                {one.words && <small>{one.words}</small>}
              </td>
              <td>{one.became}</td>
              <td className="n">{fixed(one.before, 1)}</td>
              <td className="n">{fixed(one.after, 1)}</td>
              <td className="n">{signed(one.after - one.before, 1)}</td>
              <td className="n">{signed(Number(one.each), 2)}</td>
            </tr>
          ))}
          <tr>
            <td colSpan={2}>loading, hand work, ways back: of no feature</td>
            <td className="n">{fixed(view.rest[0] ?? 0, 1)}</td>
            <td className="n">{fixed(view.rest[1] ?? 0, 1)}</td>
            <td className="n">{signed((view.rest[1] ?? 0) - (view.rest[0] ?? 0), 1)}</td>
            <td />
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td colSpan={2}>a piece, all setups</td>
            {[0, 1].map((k) => (
              <td key={k} className="n">
                {fixed(total(view, k), 1)}
              </td>
            ))}
            <td className="n">{signed(total(view, 1) - total(view, 0), 1)}</td>
            <td />
          </tr>
        </tfoot>
      </Table>
      {(more > 0 || all) && (
        <button type="button" className="act quiet" onClick={() => setAll(!all)}>
          {all ? "Only what changed" : `Show ${more} as before`}
        </button>
      )}
    </>
  );
}

const total = (view: RevisionPriceView, k: number) =>
  view.features.reduce((sum, one) => sum + (k ? one.after : one.before), view.rest[k] ?? 0);

function Prices({ view }: { view: RevisionPriceView }) {
  const lines = view.prices[0]?.lines.map((one) => one.line) ?? [];
  return (
    <>
      <h2>
        Price each <span>and what each line of the cost changes by</span>
      </h2>
      <Table bsPrefix="ledger-table" className="revision-prices">
        <thead>
          <tr>
            <th>For a batch of</th>
            {view.prices.map((one) => (
              <th key={one.quantity} className="n">
                {one.quantity}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map((line, k) => (
            <tr key={line}>
              <td>{line}</td>
              {view.prices.map((one) => (
                <td key={one.quantity} className="n">
                  {signed(Number(one.lines[k]?.each ?? 0), 2)}
                </td>
              ))}
            </tr>
          ))}
          {(["before", "after"] as const).map((side) => (
            <tr key={side}>
              <td>price, revision {view[side]}</td>
              {view.prices.map((one) => (
                <td key={one.quantity} className="n">
                  {moneyText(one[side])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <td>difference each</td>
            {view.prices.map((one) => (
              <td key={one.quantity} className="n" data-testid={`revision-each-${one.quantity}`}>
                {signed(Number(one.after) - Number(one.before), 2)}
              </td>
            ))}
          </tr>
        </tfoot>
      </Table>
    </>
  );
}

function Setups({ view }: { view: RevisionPriceView }) {
  const text = (value: number | null | undefined, how: (v: number) => string) =>
    value === null || value === undefined ? "–" : how(value);
  return (
    <>
      <h2>
        Setup by setup <span>seconds with loading, h:min, what they change in the price</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Setup</th>
            <th className="n">{view.before} s</th>
            <th className="n">{view.after} s</th>
            <th className="n">{view.before} setting up</th>
            <th className="n">{view.after} setting up</th>
            {view.prices.map((one) => (
              <th key={one.quantity} className="n">
                each at {one.quantity}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.setups.map((one) => (
            <tr key={one.setup}>
              <th scope="row">{one.setup}</th>
              {one.seconds.map((s, k) => (
                <td key={k} className="n">
                  {text(s, (v) => fixed(v, 1))}
                </td>
              ))}
              {one.hours.map((h, k) => (
                <td key={k} className="n">
                  {text(h, hoursText)}
                </td>
              ))}
              {one.each.map((money, k) => (
                <td key={k} className="n">
                  {signed(Number(money), 2)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}

function Once({ view }: { view: RevisionPriceView }) {
  const { change } = useDesk();
  return (
    <>
      <h2>
        Once <span>at cost, in no price above</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <tbody>
          {view.once
            .filter((one) => one.what !== "fixtures") // stands where it is typed
            .map((one) => (
              <tr key={one.what}>
                <th scope="row">{one.what}</th>
                <td>{one.how}</td>
                <td className="n">{moneyText(one.amount)}</td>
              </tr>
            ))}
          <tr>
            <th scope="row">fixtures made for it</th>
            <td>typed</td>
            <td className="n">
              <NumberCell
                label="Fixtures for the revision"
                kind="number"
                column="once"
                value={Number(view.fixtures)}
                text={moneyText(view.fixtures)}
                decided={Number(view.fixtures) > 0}
                onCommit={(value) => void change({ change: "set-one-off", fixtures: String(value ?? 0) })}
              />
            </td>
          </tr>
          <tr>
            <th scope="row">pieces of {view.before} on the shelf</th>
            <td>typed: finished, and scrap from now on</td>
            <td className="n">
              <NumberCell
                label="Pieces on the shelf"
                kind="number"
                column="once"
                value={view.on_shelf}
                text={String(view.on_shelf)}
                decided={view.on_shelf > 0}
                onCommit={(value) => void change({ change: "set-one-off", on_shelf: Math.round(value ?? 0) })}
              />
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td colSpan={2}>paid once</td>
            <td className="n" data-testid="paid-once">
              {moneyText(view.paid_once)}
            </td>
          </tr>
        </tfoot>
      </Table>
    </>
  );
}

const STAYS = {
  same: "to the byte as before",
  renumbered: "the same moves under another number",
  changed: "changed",
  new: "new",
  gone: "gone",
};

function Programs({ view }: { view: RevisionPriceView }) {
  const of = (stays: keyof typeof STAYS) => view.programs.filter((one) => one.stays === stays);
  return (
    <>
      <h2>
        Subprograms <span>which have to be proved out again</span>
      </h2>
      <Table bsPrefix="ledger-table" className="revision-programs">
        <tbody>
          {(Object.keys(STAYS) as (keyof typeof STAYS)[])
            .filter((stays) => of(stays).length > 0)
            .map((stays) => (
              <tr key={stays}>
                <th scope="row">{STAYS[stays]}</th>
                <td className="n">{of(stays).length}</td>
                <td className="words">
                  {of(stays)
                    .map((one) => `${one.program} O${one.number} ${one.name || one.operation}`)
                    .join(" · ")}
                </td>
              </tr>
            ))}
        </tbody>
      </Table>
    </>
  );
}
