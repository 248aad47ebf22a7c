/** Machine × stock × pieces a cycle × order as a map of prices; each is a whole plan, taken by one click. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form, Table } from "react-bootstrap";
import { alternatives } from "../../api/alternatives";
import type { CombinationView, GridView } from "../../api/client";
import { useFork } from "../../shell/alternatives";
import { clock, hoursText, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Combinations() {
  const { plan } = useDesk();
  const [asked, setAsked] = useState<number | null>(null); // the edition that they are of
  const found = useQuery({
    queryKey: ["grid", plan.plan_id, asked],
    queryFn: ({ signal }) => alternatives.grid(plan.plan_id, signal),
    enabled: asked !== null,
    staleTime: Infinity,
    retry: false,
  });
  return (
    <section aria-label="All combinations">
      <h2>
        All combinations <span>machine, stock, pieces a cycle, order; each a whole plan</span>
      </h2>
      {(asked === null || asked !== plan.edition) && (
        <p className="cures">
          <button type="button" className="act" onClick={() => setAsked(plan.edition)}>
            {asked === null ? "Make them all and compare" : "Make them again, of the plan as it stands now"}
          </button>
          <span className="soft">takes a minute or so, beside what you do; nothing changes by it</span>
        </p>
      )}
      {asked !== null && !found.data && (
        <p className={found.error ? "debit" : "soft"} role="status">
          {found.error
            ? found.error.message
            : "Making plans on every machine; how far it is stands in the rail …"}
        </p>
      )}
      {found.data && <PriceMap grid={found.data} current={asked === plan.edition} />}
    </section>
  );
}

function PriceMap({ grid, current }: { grid: GridView; current: boolean }) {
  const [at, setAt] = useState(0);
  const [picked, setPicked] = useState<CombinationView | null>(null);
  const rows = [...new Map(grid.combinations.map((one) => [`${one.on} · ${one.stock}`, one])).values()];
  const heads = ["as it stands", "one", "some", "as many as go on"].flatMap((pieces) =>
    ["as it is", "least cycle found"]
      .filter((order) => grid.combinations.some((one) => one.pieces === pieces && one.order === order))
      .map((order) => ({ pieces, order })),
  );
  const fewest = Math.min(...grid.combinations.map((one) => one.left.length));
  const whole = grid.combinations.filter((one) => one.left.length === fewest);
  const prices = whole.map((one) => Number(one.each[at]));
  const [low, high] = [Math.min(...prices), Math.max(...prices)];
  return (
    <>
      <p className="map-head">
        <label>
          Price each at{" "}
          <Form.Select
            bsPrefix="choice"
            aria-label="Quantity of the map"
            value={at}
            onChange={(event) => setAt(Number(event.target.value))}
          >
            {grid.quantities.map((quantity, k) => (
              <option key={quantity} value={k}>
                {quantity}
              </option>
            ))}
          </Form.Select>
        </label>{" "}
        <span className="soft">
          {whole.length} of {grid.combinations.length} leave{" "}
          {fewest === 0 ? "nothing" : fewest === 1 ? "one thing" : `${fewest} things`} to solve, from{" "}
          {low.toFixed(2)} to {high.toFixed(2)}; the darker, the less. Small: pieces a cycle of each load.
        </span>
      </p>
      <Table bsPrefix="ledger-table" className="price-map">
        <thead>
          <tr>
            <th>Machine</th>
            <th>Stock</th>
            {heads.map(({ pieces, order }) => (
              <th key={pieces + order}>
                {pieces === "one" ? "one a cycle" : pieces}
                <small>{order === "as it is" ? "usual order" : order}</small>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, k) => (
            <tr key={`${row.on} · ${row.stock}`}>
              {row.on !== rows[k - 1]?.on && (
                <th scope="rowgroup" rowSpan={rows.filter((one) => one.on === row.on).length}>
                  {row.on}
                </th>
              )}
              <td>{row.stock}</td>
              {heads.map(({ pieces, order }) => {
                const one = grid.combinations.find(
                  (c) => c.on === row.on && c.stock === row.stock && c.pieces === pieces && c.order === order,
                );
                return (
                  <td key={pieces + order} className="cell">
                    {one && (
                      <Cell
                        one={one}
                        at={at}
                        low={low}
                        high={high}
                        fewest={fewest}
                        on={picked === one}
                        onPick={() => setPicked(one)}
                      />
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
      {picked && <Picked one={picked} quantities={grid.quantities} line={grid.line} current={current} />}
      {grid.refused.length > 0 && (
        <p className="soft">
          Not possible on {grid.refused.map((one) => `${one.name} (${one.why})`).join("; ")}.
        </p>
      )}
      {grid.untried.length > 0 && (
        <p className="soft">Not tried, the part is large: {grid.untried.join(", ")}.</p>
      )}
    </>
  );
}

function Cell(props: {
  one: CombinationView;
  at: number;
  low: number;
  high: number;
  fewest: number;
  on: boolean;
  onPick: () => void;
}) {
  const { one, at, low, high, fewest, on, onPick } = props;
  const each = Number(one.each[at]);
  const clean = one.left.length === fewest;
  // by ratio, as prices are compared
  const share = clean && high > low && low > 0 ? 1 - Math.log(each / low) / Math.log(high / low) : 0;
  return (
    <button
      type="button"
      className={`map-cell${on ? " on" : ""}${clean ? "" : " unsolved"}`}
      style={
        clean
          ? { background: `color-mix(in srgb, var(--accent) ${Math.round(8 + 47 * share)}%, var(--sheet))` }
          : {}
      }
      aria-pressed={on}
      aria-label={`${one.on}, ${one.stock}, ${one.pieces}, ${one.order}: ${each.toFixed(2)}${one.left.length ? `, ${one.left.length} to solve` : ""}`}
      title={one.left.join("\n") || undefined}
      onClick={onPick}
    >
      {each.toFixed(2)}
      <small>
        {one.counts.join(" · ")}
        {one.left.length > 0 && `, ${one.left.length} to solve`}
      </small>
    </button>
  );
}

function Picked({
  one,
  quantities,
  line,
  current,
}: {
  one: CombinationView;
  quantities: number[];
  line: number;
  current: boolean;
}) {
  const fork = useFork();
  const itself = one.changes.length === 0;
  return (
    <div className="picked-combination" role="region" aria-label="The combination picked">
      <b>{one.name}</b> {clock(one.cycle)} a piece, {hoursText(one.setup_hours)} setting up;{" "}
      {quantities.map((q, k) => `${moneyText(one.each[k] ?? 0)} at ${q}`).join(", ")}.
      {one.left.length > 0 && <span className="debit"> Left to solve: {one.left.join(" ")}</span>}
      {!itself && (
        <p className="cures">
          <button
            type="button"
            className="act"
            disabled={fork.isPending || !current}
            onClick={() => fork.mutate({ name: one.name.slice(0, 80), seq: line, changes: one.changes })}
          >
            {fork.isPending ? "Making the plan …" : "Take it as a plan of this job"}
          </button>
          {!current && <span className="soft">the plan has changed since; make them again first</span>}
          {fork.error && <span className="debit">{fork.error.message}</span>}
        </p>
      )}
      {itself && <span className="soft"> This is the plan as it stands.</span>}
    </div>
  );
}
