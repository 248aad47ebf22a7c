/** Stock as an amount over the part on each side. */
import type { Change } from "../../api/client";
import { MaterialChoice } from "../../shell/MaterialChoice";
import { NumberCell } from "../../shell/NumberCell";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const AXES = ["X", "Y", "Z"];

export function StockFields() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const over = new Map(plan.allowances.map((a) => [a.side, a.value]));
  return (
    <>
      <h2>
        Stock <span>over the part, {unit}; 0 stays as bought</span>
        <MaterialChoice />
      </h2>
      <table className="ledger-table stock-table">
        <thead>
          <tr>
            <th>Axis</th>
            <th className="n">part</th>
            <th className="n">− side</th>
            <th className="n">+ side</th>
            <th className="n">blank</th>
          </tr>
        </thead>
        <tbody>
          {AXES.map((axis, i) => (
            <tr key={axis}>
              <th scope="row">{axis}</th>
              <td className="n">{lengthText(plan.part_size[i] ?? 0, unit, 2)}</td>
              {["-", "+"].map((sign) => {
                const side = `${axis}${sign}`;
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
                        if (value !== null) void change({ change: "set-allowance", side, value } as Change);
                      }}
                    />
                  </td>
                );
              })}
              <td className="n">{lengthText(plan.stock[i] ?? 0, unit, 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
