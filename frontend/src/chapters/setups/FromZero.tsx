/** Where everything that a setup makes lies from its zero. */
import { Table } from "react-bootstrap";
import type { SetupView } from "../../api/client";
import { lengthText } from "../../shell/numbers";
import { useSelection, useUnit } from "../../shell/selection";

export function FromZero({ setup }: { setup: SetupView }) {
  const { unit } = useUnit();
  const { chosen, choose } = useSelection();
  const at = (value: number) => lengthText(value, unit, unit === "mm" ? 3 : 4);
  return (
    <>
      <h2>
        From the zero of {setup.id} <span>{setup.zero.words}</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Feature</th>
            <th className="n">X, {unit}</th>
            <th className="n">Y</th>
            <th className="n">top</th>
            <th className="n">bottom</th>
          </tr>
        </thead>
        <tbody>
          {setup.zero.coordinates.map((row) => (
            <tr key={row.feature} className={chosen.has(row.feature) ? "sel" : undefined}>
              <td>
                <button type="button" className="cell-button" onClick={() => choose([row.feature])}>
                  {row.feature} {row.title}
                </button>
              </td>
              <td className="n">{at(row.x)}</td>
              <td className="n">{at(row.y)}</td>
              <td className="n">{at(row.top)}</td>
              <td className="n">{at(row.bottom)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
