/** Each tool over its time in a piece: how hard it works, how long it lasts, what that costs. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { api, type ToolUseView } from "../../api/client";
import { fixed, moneyText } from "../../shell/numbers";
import { FileLink } from "../../shell/FileLink";
import { useDesk } from "../../shell/plan";
import { LoadStrip } from "../../views/LoadStrip";

export function ToolUse() {
  const { plan } = useDesk();
  const found = useQuery({
    queryKey: ["tool-use", plan.plan_id, plan.edition],
    queryFn: () => api.toolUse(plan.plan_id),
    staleTime: Infinity,
  });
  if (found.error) return <p className="finding">{found.error.message}</p>;
  if (!found.data) return <p className="empty">Counting minutes in cut …</p>;
  const { tools: uses, missing } = found.data;
  if (uses.length === 0 && missing.length === 0)
    return <p className="empty">No operation asks for a tool yet.</p>;
  const longest = Math.max(...uses.map((use) => 60 * use.minutes));
  const wear = uses.reduce((sum, use) => sum + use.cost, 0);
  return (
    <div className="scroll wide">
      {missing.length > 0 && (
        <div className="finding">
          <b>The shop does not have:</b>
          <ul className="missing">
            {missing.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </div>
      )}
      <p>
        <FileLink href={api.paper(plan.plan_id, "shopping.csv")}>Shopping list, CSV</FileLink>{" "}
        <FileLink href={api.paper(plan.plan_id, "shopping.xlsx")}>XLSX</FileLink>
      </p>
      <Table bsPrefix="ledger-table" className="tool-use">
        <thead>
          <tr>
            <th>Tool</th>
            <th />
            <th>Load over its time in cut, against its nearest limit</th>
            <th className="n">in cut s</th>
            <th className="n">life min</th>
            <th className="n">pieces a tool</th>
            {plan.quantities.map((quantity) => (
              <th key={quantity} className="n">
                for {quantity}
              </th>
            ))}
            <th className="n">each</th>
          </tr>
        </thead>
        <tbody>
          {uses.map((use) => (
            <tr key={use.tool.id}>
              <td>
                T{use.tool.number} {use.tool.description}
              </td>
              <td>{use.where}</td>
              <td>
                <LoadStrip work={use.work} longest={longest} label={`Load of ${use.tool.description}`} />
              </td>
              <td className="n">{fixed(60 * use.minutes, 1)}</td>
              <td className="n">{fixed(use.life, 0)}</td>
              <td className="n">{use.pieces === null ? "–" : fixed(use.pieces, 0)}</td>
              {use.batches.map((batch) => (
                <td key={batch.quantity} className="n">
                  {tools(batch)}
                </td>
              ))}
              <td className="n">{fixed(use.cost, 3)}</td>
            </tr>
          ))}
          <tr className="sum">
            <td colSpan={6 + plan.quantities.length}>Tool wear a piece</td>
            <td className="n">{moneyText(String(wear))}</td>
          </tr>
        </tbody>
      </Table>
      <p className="soft">
        A column is an operation: as wide as it cuts long, as high as its share of the spindle's power or
        torque, or of what a mill may bend; the broken line is that limit. Life is at the speed and feed that
        each operation runs at; “2, 1 change” are two tools for the batch.
      </p>
    </div>
  );
}

function tools(batch: ToolUseView["batches"][number]): string {
  if (batch.changes === 0) return "1";
  return `${batch.used_up}, ${batch.changes} change${batch.changes > 1 ? "s" : ""}`;
}
