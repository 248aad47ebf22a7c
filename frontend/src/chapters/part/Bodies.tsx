/** Bodies that the plan adds to hold the part by; the customer's model stays as it is. */
import { Form, Table } from "react-bootstrap";
import type { BodyView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

type Measure = "length" | "width" | "height" | "u" | "v";

const HEADS: [Measure, string][] = [
  ["length", "long, Ø"],
  ["width", "wide"],
  ["height", "high"],
  ["u", "right"],
  ["v", "back"],
];

export function Bodies() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const added = plan.bodies.filter((body) => body.kind !== "plug");
  if (added.length === 0) return null;
  const cell = (body: BodyView, measure: Measure, label: string) => (
    <NumberCell
      label={`${body.id} ${label}`}
      kind="length"
      unit={unit}
      value={body[measure]}
      text={lengthText(body[measure], unit, 1)}
      onCommit={(value) => {
        if (value !== null) void change({ change: "size-body", body: body.id, measure, value });
      }}
    />
  );
  return (
    <>
      <h2>
        Added to hold by <span>the model itself stays as it is</span>
      </h2>
      <Table bsPrefix="ledger-table" className="bodies-table">
        <thead>
          <tr>
            <th>Body</th>
            {HEADS.map(([measure, label]) => (
              <th key={measure} className="n">
                {label}
              </th>
            ))}
            <th>Taken off</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {added.map((body) => (
            <tr key={body.id}>
              <td className="nowrap">
                <b>{body.id}</b> {body.kind}, {body.on}
              </td>
              {HEADS.map(([measure, label]) => (
                <td key={measure} className="n">
                  {body.kind === "boss" && measure === "width" ? "" : cell(body, measure, label)}
                </td>
              ))}
              <td>
                <Form.Select
                  bsPrefix="choice"
                  aria-label={`Who takes ${body.id} off`}
                  value={body.removal}
                  onChange={(event) =>
                    void change({
                      change: "remove-body",
                      body: body.id,
                      removal: event.target.value as "" | "by hand" | "elsewhere",
                    })
                  }
                >
                  <option value="">nobody yet</option>
                  <option value="by hand">by hand</option>
                  <option value="elsewhere">elsewhere</option>
                </Form.Select>
              </td>
              <td>
                <button
                  type="button"
                  className="act quiet"
                  aria-label={`Take ${body.id} out`}
                  onClick={() => void change({ change: "drop-body", body: body.id })}
                >
                  out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
