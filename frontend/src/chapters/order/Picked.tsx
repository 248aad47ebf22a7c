/** What can be done with the steps of a cycle that are picked: held together, put one before the other, taken out. */
import { useState } from "react";
import { Form } from "react-bootstrap";
import type { StepView } from "../../api/client";
import { useDesk } from "../../shell/plan";

type Props = { load: string; steps: StepView[]; onDone: () => void };

export function Picked({ load, steps, onDone }: Props) {
  const { change } = useDesk();
  const [note, setNote] = useState("");
  const [name, setName] = useState(steps.length === 1 ? (steps[0]?.section ?? "") : "");
  const [first, then] = steps;
  const pairs = steps.map((step): [string, string] => [step.piece, step.operation]);
  const locked = steps.some((step) => step.run > 0);
  const two = steps.length === 2 && first && then && first.setup === then.setup;
  const waits = then?.after.find((one) => one.operation === first?.operation);
  async function done(sent: Promise<unknown>) {
    await sent;
    onDone();
  }
  return (
    <div className="picked" role="group" aria-label="Picked steps">
      <span className="soft">{steps.length === 1 ? "1 step picked:" : `${steps.length} steps picked:`}</span>
      {steps.length > 1 && !locked && (
        <button
          type="button"
          className="act quiet"
          onClick={() => void done(change({ change: "lock-steps", load, steps: pairs }))}
        >
          Lock them together
        </button>
      )}
      {locked && (
        <button
          type="button"
          className="act quiet"
          onClick={() => void done(change({ change: "lock-steps", load, steps: pairs, locked: false }))}
        >
          Unlock
        </button>
      )}
      {steps.length === 1 && first && (
        <>
          <button
            type="button"
            className="act quiet"
            onClick={() =>
              void done(change({ change: "take-out", load, operation: first.operation, out: true }))
            }
          >
            Take it out for now
          </button>
          {first.another && (
            <button
              type="button"
              className="act quiet"
              onClick={() =>
                void done(
                  change({
                    change: "edit-operation",
                    operation: first.operation,
                    tool: first.another,
                    clear: [],
                  }),
                )
              }
            >
              Another T{first.tool} for it
            </button>
          )}
          <form
            className="named"
            onSubmit={(event) => {
              event.preventDefault();
              const { piece, operation } = first;
              void done(change({ change: "name-section", load, piece, operation, name }));
            }}
          >
            <Form.Control
              bsPrefix="field"
              aria-label="Name of the section that begins here"
              placeholder="a section begins here: its name"
              maxLength={60}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <button type="submit" className="act quiet" disabled={!name.trim() && !first.section}>
              {name.trim() || !first.section ? "Name it" : "No section here"}
            </button>
          </form>
        </>
      )}
      {two && first.operation !== then.operation && (
        <>
          <Form.Control
            bsPrefix="field"
            aria-label="Note"
            placeholder={waits ? "why it need not wait" : "why, if you like"}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          {waits && !waits.by_hand ? (
            <button
              type="button"
              className="act quiet"
              onClick={() =>
                void done(
                  change({ change: "overrule", load, first: first.operation, then: then.operation, note }),
                )
              }
            >
              The second need not wait
            </button>
          ) : (
            <button
              type="button"
              className="act quiet"
              onClick={() =>
                void done(
                  change({ change: "come-before", load, first: first.operation, then: then.operation, note }),
                )
              }
            >
              The first always before the second
            </button>
          )}
        </>
      )}
    </div>
  );
}
