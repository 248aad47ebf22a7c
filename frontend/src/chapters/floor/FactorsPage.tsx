/** What was measured of each machine and category, and which of it estimates are taken times. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Table } from "react-bootstrap";
import { floor } from "../../api/floor";
import type { Schemas } from "../../api/types";
import { fixed } from "../../shell/numbers";
import { ShopPage } from "../../shell/ShopPage";

type Factor = Schemas["FactorView"];

export function FactorsPage() {
  const queries = useQueryClient();
  const found = useQuery({ queryKey: ["factors"], queryFn: floor.factors, staleTime: 0 });
  const [told, setTold] = useState("");
  const [busy, setBusy] = useState(false);
  async function make(what: () => Promise<unknown>) {
    setBusy(true);
    setTold("");
    try {
      await what();
    } catch (error) {
      setTold((error as Error).message);
    }
    await queries.invalidateQueries();
    setBusy(false);
  }
  const rows = found.data?.factors ?? [];
  const machines = [...new Set(rows.map((row) => row.machine))];
  return (
    <ShopPage title="Floor" more="what machines take of what is estimated">
      {found.error && <p className="finding">{found.error.message}</p>}
      {told && (
        <p className="finding" role="alert">
          {told}
        </p>
      )}
      {found.data && rows.length === 0 && (
        <p className="empty">
          Nothing came back yet. Open a plan’s chapter “Floor”, run its programs, or tick its steps at the
          machine.
        </p>
      )}
      {rows.length > 0 && (
        <>
          <Table bsPrefix="ledger-table" className="factors-table">
            <thead>
              <tr>
                <th>Category</th>
                <th className="n">programs</th>
                <th className="n">runs</th>
                <th className="n">mean of estimate</th>
                <th className="n">runs scatter</th>
                <th className="n">believed</th>
                <th className="n">factor</th>
                <th>left out, unlike the others</th>
                <th className="n">in use</th>
                <th />
              </tr>
            </thead>
            {machines.map((machine) => (
              <tbody key={machine}>
                <tr className="group">
                  <th colSpan={10} scope="rowgroup">
                    {rows.find((row) => row.machine === machine)?.machine_name}
                  </th>
                </tr>
                {rows
                  .filter((row) => row.machine === machine)
                  .map((row) => (
                    <FactorRow key={row.category} row={row} busy={busy} onMake={(what) => void make(what)} />
                  ))}
              </tbody>
            ))}
          </Table>
          <p className="soft">
            A factor is the mean of programs, each as sure as its runs make it, drawn towards 1 as far as
            there is little to go by: believed 86 % of a mean of 1.060 is 1.052. In use, all estimates of the
            machine are taken times it, and each figure says so.
          </p>
        </>
      )}
    </ShopPage>
  );
}

type RowProps = { row: Factor; busy: boolean; onMake: (what: () => Promise<unknown>) => void };

function FactorRow({ row, busy, onMake }: RowProps) {
  const same = row.used !== null && Math.abs(row.used - row.factor) < 0.0005;
  const name = `${row.category} on ${row.machine_name}`;
  return (
    <tr>
      <td>{row.category}</td>
      <td className="n">{row.programs}</td>
      <td className="n">{row.runs}</td>
      <td className="n">{fixed(row.mean, 3)}</td>
      <td className="n">± {fixed(100 * row.scatter, 1)} %</td>
      <td className="n">{fixed(100 * row.drawn, 0)} %</td>
      <td className="n">
        <b>{fixed(row.factor, 3)}</b> ± {fixed(row.off, 3)}
      </td>
      <td className="words">
        {row.outliers.slice(0, 3).map((one) => (
          <small key={one.words}>
            {one.words}: {fixed(one.ratio, 2)}
          </small>
        ))}
        {row.outliers.length > 3 && <small>and {row.outliers.length - 3} more</small>}
      </td>
      <td className="n">{row.used === null ? "–" : fixed(row.used, 3)}</td>
      <td className="row-acts">
        {!same && (
          <button
            type="button"
            className="act quiet"
            disabled={busy}
            aria-label={`${row.used === null ? "Use" : "Use anew"}: ${name}`}
            onClick={() => onMake(() => floor.use(row.machine, row.category))}
          >
            {row.used === null ? "Use" : "Use anew"}
          </button>
        )}
        {row.used !== null && (
          <button
            type="button"
            className="act quiet"
            disabled={busy}
            aria-label={`Stop using: ${name}`}
            onClick={() => onMake(() => floor.drop(row.machine, row.category))}
          >
            Stop using
          </button>
        )}
      </td>
    </tr>
  );
}
