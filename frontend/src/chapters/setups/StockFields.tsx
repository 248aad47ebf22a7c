/** What is bought, and how much of it stands over the part on each side. */
import { Form, Table } from "react-bootstrap";
import { among } from "../../api/changes";
import { BoughtAs } from "./BoughtAs";
import { MaterialChoice } from "../../shell/MaterialChoice";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";

const AXES = ["X", "Y", "Z"] as const;
const SIGNS = ["-", "+"] as const;
const SIZINGS = ["over the part", "next size up", "fixed"] as const;
const NEAR_NET = "near-net" as const;
const FORMS = ["block", "plate", "rectangular bar", "round bar", "hexagonal bar"] as const;

export function StockFields() {
  const { plan, change, bringStock } = useDesk();
  const { unit } = useUnit();
  const stock = plan.stock_choice;
  return (
    <>
      <h2>
        Stock {stock.form !== NEAR_NET && <span>over the part, {unit}; 0 stays as bought</span>}
        <MaterialChoice />
      </h2>
      <div className="choices fields">
        <label>
          Bought as
          <Form.Select
            bsPrefix="choice"
            value={stock.form}
            onChange={(event) =>
              void change({ change: "set-stock", form: among([...FORMS, NEAR_NET], event.target.value) })
            }
          >
            {[...FORMS, ...(stock.over.length > 0 ? [NEAR_NET] : [])].map((form) => (
              <option key={form}>{form}</option>
            ))}
          </Form.Select>
        </label>
        {stock.form !== "block" && stock.form !== NEAR_NET && (
          <label>
            {stock.form === "plate" ? "Thick along" : "Long along"}
            <Form.Select
              bsPrefix="choice"
              value={stock.along_decided ? stock.along : ""}
              onChange={(event) =>
                void change({ change: "set-stock", along: among(AXES, event.target.value) ?? "by the rule" })
              }
            >
              <option value="">by the rule: {stock.along}</option>
              {AXES.map((axis) => (
                <option key={axis}>{axis}</option>
              ))}
            </Form.Select>
          </label>
        )}
        {stock.form === NEAR_NET ? (
          AXES.map((axis, i) => (
            <label key={axis}>
              Moved {axis}, {unit}
              <NumberCell
                label={`Stock moved along ${axis}`}
                kind="length"
                unit={unit}
                column="shift"
                value={stock.shift[i] ?? 0}
                text={lengthText(stock.shift[i] ?? 0, unit, 2)}
                onCommit={(value) => void change({ change: "shift-stock-model", axis, value: value ?? 0 })}
              />
            </label>
          ))
        ) : (
          <label>
            Sizes
            <Form.Select
              bsPrefix="choice"
              value={stock.sizing}
              onChange={(event) =>
                void change({ change: "set-stock", sizing: among(SIZINGS, event.target.value) })
              }
            >
              <option value="over the part">over the part, as below</option>
              <option value="next size up">next size up that dealers keep</option>
              <option value="fixed">fixed, whatever the part</option>
            </Form.Select>
          </label>
        )}
        <label className="file-choice">
          Casting or forging, its own model
          <input
            type="file"
            accept=".step,.stp"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void bringStock(file);
              event.target.value = "";
            }}
          />
        </label>
      </div>
      <p className="soft zero-words">
        {stock.named} mm · {fixed(stock.kg, 3)} kg · {fixed(100 * plan.chips_share, 0)} % of it goes into
        chips
      </p>
      {stock.form === NEAR_NET ? (
        <Over />
      ) : (
        <>
          <Sides />
          <BoughtAs />
        </>
      )}
    </>
  );
}

/** Near-net stock: how much of it stands over each feature. */
function Over() {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const { chosen, choose } = useSelection();
  return (
    <Table bsPrefix="ledger-table" className="stock-table">
      <thead>
        <tr>
          <th>Feature</th>
          <th className="n">stock over it, {unit}</th>
        </tr>
      </thead>
      <tbody>
        {plan.stock_choice.over.map((one) => (
          <tr key={one.feature} className={chosen.has(one.feature) ? "sel" : undefined}>
            <td>
              <button type="button" className="cell-button" onClick={() => choose([one.feature])}>
                {one.feature} {one.title}
              </button>
            </td>
            <td className="n">{one.over === null ? "solid" : lengthText(one.over, unit, 2)}</td>
          </tr>
        ))}
        <tr>
          <td className="soft">all else</td>
          <td className="n soft">as it comes</td>
        </tr>
      </tbody>
    </Table>
  );
}

function Sides() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const stock = plan.stock_choice;
  const over = new Map(plan.allowances.map((a) => [a.side, a.value]));
  return (
    <>
      <Table bsPrefix="ledger-table" className="stock-table">
        <thead>
          <tr>
            <th>Axis</th>
            <th className="n">part</th>
            <th className="n">− side</th>
            <th className="n">+ side</th>
            <th className="n">stock</th>
          </tr>
        </thead>
        <tbody>
          {AXES.map((axis, i) => (
            <tr key={axis}>
              <th scope="row">{axis}</th>
              <td className="n">{lengthText(plan.part_size[i] ?? 0, unit, 2)}</td>
              {SIGNS.map((sign) => {
                const side = `${axis}${sign}` as const;
                return (
                  <td key={side} className="n">
                    <NumberCell
                      label={`Allowance ${side}`}
                      kind="length"
                      unit={unit}
                      column={sign}
                      value={over.get(side) ?? 0}
                      text={lengthText(over.get(side) ?? 0, unit, 2)}
                      onCommit={(value) => {
                        if (value !== null) void change({ change: "set-allowance", side, value });
                      }}
                    />
                  </td>
                );
              })}
              <td className="n">
                {stock.sizing === "fixed" ? (
                  <NumberCell
                    label={`Stock along ${axis}`}
                    kind="length"
                    unit={unit}
                    column="stock"
                    value={plan.stock[i] ?? 0}
                    text={lengthText(plan.stock[i] ?? 0, unit, 2)}
                    decided
                    onCommit={(value) => {
                      if (value !== null) void change({ change: "set-stock-size", axis, value });
                    }}
                  />
                ) : (
                  lengthText(plan.stock[i] ?? 0, unit, 2)
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
