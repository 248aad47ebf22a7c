/** What is done by hand on each piece of a setup, and whether the machine stands meanwhile. */
import { Form, Table } from "react-bootstrap";
import type { SetupChange } from "../../api/changes";
import type { SetupView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

const KINDS = ["deburr", "inspect", "turn over", "re-clamp"] as const;

export function HandWork({ setup }: { setup: SetupView }) {
  const { change } = useDesk();
  const set = (values: SetupChange) => void change({ ...values, setup: setup.id });
  return (
    <>
      <h2>
        By hand{" "}
        <span className="add-hand">
          {KINDS.map((kind) => (
            <button
              key={kind}
              type="button"
              className="act quiet"
              aria-label={`Add by hand: ${kind}`}
              onClick={() => set({ change: "add-hand-work", kind })}
            >
              + {kind}
            </button>
          ))}
        </span>
      </h2>
      {setup.hand.length === 0 ? (
        <p className="soft">Nothing beside loading and unloading.</p>
      ) : (
        <Table bsPrefix="ledger-table">
          <thead>
            <tr>
              <th>Work on each piece</th>
              <th className="n">s</th>
              <th>The machine</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {setup.hand.map((work) => (
              <tr key={work.id}>
                <td>{work.kind}</td>
                <td className="n">
                  <NumberCell
                    label={`Seconds to ${work.kind}`}
                    kind="number"
                    value={work.seconds}
                    text={fixed(work.seconds, 1)}
                    onCommit={(seconds) => {
                      if (seconds !== null) set({ change: "edit-hand-work", work: work.id, seconds });
                    }}
                  />
                </td>
                <td>
                  <Form.Select
                    bsPrefix="choice"
                    aria-label={`The machine, to ${work.kind}`}
                    value={work.during ? "runs" : "stands"}
                    onChange={(event) =>
                      set({ change: "edit-hand-work", work: work.id, during: event.target.value === "runs" })
                    }
                  >
                    <option value="stands">stands</option>
                    <option value="runs">runs meanwhile</option>
                  </Form.Select>
                </td>
                <td>
                  <button
                    type="button"
                    className="act quiet"
                    aria-label={`Take out: ${work.kind}`}
                    onClick={() => set({ change: "remove-hand-work", work: work.id })}
                  >
                    Take out
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </>
  );
}
