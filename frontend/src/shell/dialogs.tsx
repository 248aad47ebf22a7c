/** The two dialogs of the frame: shortcuts, and a plan that someone else changed meanwhile. */
import { useRef } from "react";
import { Modal, Table } from "react-bootstrap";
import { useDesk } from "./plan";
import { EffectWords } from "./Strip";

export const SHORTCUTS: [string, string][] = [
  ["?", "this list"],
  ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"],
  ["Alt 1 … Alt 9, Alt 0, Alt -", "a chapter of the plan, in the order of the rail"],
  ["J", "the journal"],
  ["L", "the ledger of the cycle, down to the formulas"],
  ["↑ ↓ Enter", "in tables: the row above or below"],
  ["← →", "in tables: the cell beside, from the end of the text"],
  ["Esc", "leave a cell as it was; close what is open"],
  ["Alt ↑ Alt ↓", "Order: move the operation that has the focus"],
  ["+ − ← →", "Program: look closer at the time strip, farther, earlier, later"],
  ["↑ ↓", "Program: the line before, the next line"],
  [
    "1 … 9, N, 0",
    "Setups, who makes what: the feature with the focus to that setup, to a new one, or to none",
  ],
  ["F", "Part: the whole part into view"],
  ["← → ↑ ↓ R", "Layout: move the piece that has the focus, turn it; Shift: by 10, the other way"],
];

export function Shortcuts({ show, onClose }: { show: boolean; onClose: () => void }) {
  return (
    <Modal show={show} onHide={onClose} aria-labelledby="shortcuts-title">
      <Modal.Header closeButton>
        <Modal.Title id="shortcuts-title">Keys</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Table bsPrefix="ledger-table">
          <tbody>
            {SHORTCUTS.map(([keys, what]) => (
              <tr key={keys}>
                <th scope="row">
                  <kbd>{keys}</kbd>
                </th>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </Table>
        <p className="soft">
          Number cells take what you type: <kbd>1/4</kbd> <kbd>0.25in</kbd> <kbd>6,35</kbd> <kbd>3x8+2</kbd>{" "}
          <kbd>2:30</kbd>. Emptied, a cell that was set by hand goes back to the rule. A column copied from a
          spreadsheet can be pasted.
        </p>
      </Modal.Body>
    </Modal>
  );
}

export function ConflictDialog() {
  const { conflict, again, leaveConflict } = useDesk();
  const first = useRef<HTMLButtonElement>(null);
  return (
    <Modal
      show={conflict !== null}
      onHide={leaveConflict}
      onEntered={() => first.current?.focus()}
      aria-labelledby="conflict-title"
    >
      <Modal.Header closeButton>
        <Modal.Title id="conflict-title">The plan moved on</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>Someone else changed this plan after you last saw it. You now see it as it stands. Since then:</p>
        <ul className="since">
          {conflict?.stale.since.map((line) => (
            <li key={line.seq}>
              <b>{line.words}</b>, {line.author}{" "}
              <span className="soft">
                <EffectWords effect={line.effect} />
              </span>
            </li>
          ))}
        </ul>
        <p>Your change was not made yet. Nothing is lost.</p>
        <div className="cures">
          <button type="button" ref={first} className="act" onClick={again}>
            Make my change on top
          </button>
          <button type="button" className="act quiet" onClick={leaveConflict}>
            Leave it as it stands
          </button>
        </div>
      </Modal.Body>
    </Modal>
  );
}
