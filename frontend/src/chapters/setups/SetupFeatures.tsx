/** What this setup makes, and what each costs there. */
import { Table } from "react-bootstrap";
import type { SetupView } from "../../api/client";
import { clock, fixed, volumeText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { rowTitle, setupRows } from "./setupRows";

export function SetupFeatures({ setup }: { setup: SetupView }) {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const { chosen, choose } = useSelection();
  const byId = new Map(plan.features.map((f) => [f.id, f]));
  const rows = setupRows(plan, setup);
  const shared = setup.cycle - rows.reduce((sum, row) => sum + row.seconds, 0);
  const volume = (ids: string[]) => ids.reduce((sum, id) => sum + (byId.get(id)?.volume ?? 0), 0);
  const others = plan.setups.filter((s) => s.id !== setup.id);
  return (
    <>
      <h2>
        Made in {setup.id} <span>{clock(setup.cycle)} cycle</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Feature</th>
            <th className="n">{unit === "mm" ? "mm³" : "in³"}</th>
            <th className="n">s</th>
            {others.length > 0 && <th>Elsewhere</th>}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.ids[0]} className={row.ids.some((id) => chosen.has(id)) ? "sel" : undefined}>
              <td>
                <button type="button" className="cell-button" onClick={() => choose(row.ids)}>
                  {rowTitle(row)}
                </button>
              </td>
              <td className="n">{volume(row.ids) ? volumeText(volume(row.ids), unit) : "–"}</td>
              <td className="n">{row.seconds ? fixed(row.seconds, 1) : "–"}</td>
              {others.length > 0 && (
                <td>
                  {others
                    .filter((other) => row.ids.every((id) => byId.get(id)?.movable_to.includes(other.id)))
                    .map((other) => (
                      <button
                        key={other.id}
                        type="button"
                        className="act quiet"
                        onClick={() =>
                          void change({ change: "move-feature", features: row.ids, setup: other.id })
                        }
                      >
                        to {other.id}
                      </button>
                    ))}
                </td>
              )}
            </tr>
          ))}
          <tr>
            <td>Shared passes, return</td>
            <td className="n" />
            <td className="n">{fixed(shared, 1)}</td>
            {others.length > 0 && <td />}
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td>Setup {setup.id}</td>
            <td className="n" />
            <td className="n">{fixed(setup.cycle, 1)}</td>
            {others.length > 0 && <td />}
          </tr>
        </tfoot>
      </Table>
    </>
  );
}
