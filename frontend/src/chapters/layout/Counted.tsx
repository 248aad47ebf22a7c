/** Seconds and price of each piece against how many lie in a load; a point takes its count. */
import { useState } from "react";
import { Form, Table } from "react-bootstrap";
import { api, type CountView, type LayoutView } from "../../api/client";
import { fixed, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { CountChart } from "../../views/CountChart";
import { useRested } from "./rested";

export function Counted({ load }: { load: LayoutView }) {
  const { change } = useDesk();
  const [asked, setAsked] = useState(0);
  const { data: counts, older, error } = useRested("counts", load.load, api.counts);
  const take = (point: CountView) =>
    void change({
      change: "set-arrangement",
      load: load.load,
      columns: point.columns,
      rows: point.rows,
      moved: load.pieces.map((piece): [string, number, number] => [piece.id, 0, 0]),
    });
  const now = load.finished;
  return (
    <>
      <h2>
        How many <span>each count planned and priced anew</span>
      </h2>
      {error && <p className="debit">{error.message}</p>}
      {!error && older && (
        <p className="soft">Computing each count …{counts && " Below are those of the plan before."}</p>
      )}
      {counts && (
        <>
          <CountChart points={counts.points} now={now} knee={counts.knee} quantity={asked} onTake={take} />
          <Table bsPrefix="ledger-table" className="counts">
            <thead>
              <tr>
                <th scope="col" className="n">
                  Pieces
                </th>
                <th scope="col">Columns × rows</th>
                <th scope="col" className="n">
                  s each
                </th>
                <th scope="col" className="n">
                  loading
                </th>
                <th scope="col" className="n">
                  <Form.Select
                    bsPrefix="choice"
                    aria-label="Quantity of the price"
                    value={asked}
                    onChange={(event) => setAsked(Number(event.target.value))}
                  >
                    {counts.quantities.map((quantity, k) => (
                      <option key={quantity} value={k}>
                        each at {quantity}
                      </option>
                    ))}
                  </Form.Select>
                </th>
                <th scope="col" aria-label="Take it" />
              </tr>
            </thead>
            <tbody>
              {counts.points.map((point) => (
                <tr key={point.pieces} className={point.pieces === now ? "here" : undefined}>
                  <th scope="row" className="n">
                    {point.pieces}
                  </th>
                  <td>
                    {point.columns} × {point.rows}
                    {point.pieces === counts.knee && <em className="soft"> nine tenths of the gain</em>}
                    {point.stopped && <em className="debit"> {point.stopped}</em>}
                  </td>
                  <td className="n">{fixed(point.seconds, 1)}</td>
                  <td className="n">{fixed(point.loading, 1)}</td>
                  <td className="n">{moneyText(point.each[asked] ?? "0")}</td>
                  <td>
                    {point.pieces !== now && (
                      <button
                        type="button"
                        className="act quiet"
                        aria-label={`Take ${point.pieces} pieces`}
                        onClick={() => take(point)}
                      >
                        Take
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          <p className="soft">
            No more go on: {counts.why[0]}; {counts.why[1]}.
          </p>
        </>
      )}
    </>
  );
}
