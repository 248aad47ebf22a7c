/** What a setup's cycle does beside cutting: what a probe feels, and on a lathe the piece cut off its bar. */
import { Form } from "react-bootstrap";
import type { SetupChange } from "../../api/changes";
import type { SetupView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const USUAL_REST = 0.5;

export function CycleExtras({ setup }: { setup: SetupView }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const set = (values: SetupChange) => void change({ ...values, setup: setup.id });
  if (setup.can_cut_off) {
    return (
      <>
        <h2>Cut off</h2>
        <p>
          <label>
            <Form.Check.Input
              bsPrefix="tick"
              type="checkbox"
              checked={setup.cut_off !== null}
              onChange={(event) =>
                set({ change: "set-cut-off", left: event.target.checked ? USUAL_REST : null })
              }
            />{" "}
            The piece is cut off its bar
          </label>
          {setup.cut_off !== null && (
            <>
              , with{" "}
              <NumberCell
                label="Left to face"
                kind="length"
                unit={unit}
                value={setup.cut_off}
                text={lengthText(setup.cut_off, unit, 2)}
                onCommit={(left) => {
                  if (left !== null) set({ change: "set-cut-off", left });
                }}
              />{" "}
              {unit} left to face
            </>
          )}
        </p>
      </>
    );
  }
  if (setup.probes.length === 0) return null;
  return (
    <>
      <h2>
        Probed <span>in each cycle</span>
      </h2>
      <div className="probed">
        {setup.probes.map((probe) => (
          <label key={probe.what}>
            <Form.Check.Input
              bsPrefix="tick"
              type="checkbox"
              checked={probe.on}
              onChange={(event) => set({ change: "set-probe", what: probe.what, on: event.target.checked })}
            />{" "}
            {probe.title}
            {probe.seconds !== null && <b> {fixed(probe.seconds, 1)} s</b>}
          </label>
        ))}
      </div>
    </>
  );
}
