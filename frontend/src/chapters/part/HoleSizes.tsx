/** Holes by size: name a thread once, and every hole of that size takes it. */
import { Form, Table } from "react-bootstrap";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { span } from "./words";

export function HoleSizes() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const { chosen, choose } = useSelection();
  if (plan.holes.length === 0) return null;
  return (
    <>
      <h2>
        Holes by size <span>a thread is named once for all of a size</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th className="n">Ø {unit}</th>
            <th className="n">Holes</th>
            <th>Which</th>
            <th>Thread</th>
          </tr>
        </thead>
        <tbody>
          {plan.holes.map((size) => (
            <tr
              key={size.diameter}
              className={size.features.some((id) => chosen.has(id)) ? "sel" : undefined}
            >
              <td className="n">{lengthText(size.diameter, unit, 2)}</td>
              <td className="n">{size.features.length}</td>
              <td>
                <button type="button" className="cell-button" onClick={() => choose(size.features)}>
                  {span(size.features)}
                </button>
              </td>
              <td>
                {size.options.length ? (
                  <Form.Select
                    bsPrefix="choice"
                    aria-label={`Thread of the holes Ø ${size.diameter}`}
                    value={size.thread ?? ""}
                    onChange={(event) =>
                      void change({
                        change: "set-thread",
                        diameter: size.diameter,
                        thread: event.target.value || null,
                      })
                    }
                  >
                    <option value="">plain</option>
                    {size.options.map((name) => (
                      <option key={name}>{name}</option>
                    ))}
                  </Form.Select>
                ) : (
                  <span className="soft">plain</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
