/** What each quantity takes: how many loads, of which some fill and empty where several setups lie in it. */
import { Table } from "react-bootstrap";
import type { LayoutView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";

export function Runs({ load }: { load: LayoutView }) {
  const mixed = load.setups.length > 1;
  if (load.finished === 1 && !mixed) return null;
  const first = load.setups[0]?.setup ?? "";
  return (
    <>
      <h2>
        Loads of a batch <span>of {load.finished} a cycle, loading left out</span>
      </h2>
      <Table bsPrefix="ledger-table" className="runs-of">
        <thead>
          <tr>
            <th scope="col" className="n">
              Pieces
            </th>
            <th scope="col" className="n">
              Loads
            </th>
            <th scope="col">Cycles</th>
            <th scope="col" className="n">
              On the machine
            </th>
          </tr>
        </thead>
        <tbody>
          {load.runs.map((run) => (
            <tr key={run.quantity}>
              <th scope="row" className="n">
                {run.quantity}
              </th>
              <td className="n">{run.loads}</td>
              <td>
                {mixed
                  ? run.cycles.map((one) => `${one.count} × ${one.setups.join(" + ")}`).join(", ")
                  : `${run.loads} whole`}
                {run.last < load.finished && (
                  <span className="soft">
                    {" "}
                    · {run.last === 1 ? "1 piece is" : `${run.last} pieces are`} left for the last
                  </span>
                )}
              </td>
              <td className="n">{clock(run.seconds)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {mixed && (
        <p className="soft">
          Filling and emptying cost {fixed(load.filling, 1)} s a batch, counted with the setting up. Keep{" "}
          {load.finished === 1 ? "a piece" : `${load.finished} pieces`} of {first} for the next order, and it
          begins with a whole cycle.
        </p>
      )}
    </>
  );
}
