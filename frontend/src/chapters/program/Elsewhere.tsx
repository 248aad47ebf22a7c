/** Programs from elsewhere: what the simulated machine takes for them stands in the ledger. */
import { Form } from "react-bootstrap";
import { useState } from "react";
import type { SetupProgramView } from "../../api/client";
import { clock } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Elsewhere({ program }: { program: SetupProgramView }) {
  const { plan, bringProgram, change } = useDesk();
  const [operation, setOperation] = useState("");
  const attached = plan.setups.find((s) => s.id === program.setup)?.attached ?? [];
  const named = (id: string) =>
    id ? (program.calls.find((c) => c.operation === id)?.name ?? id) : `all of ${program.setup}`;
  return (
    <>
      <h2>
        Timed by another program <span>a proven one, or one from elsewhere</span>
      </h2>
      {attached.map((one) => (
        <p key={one.operation}>
          <b>{one.file}</b> stands for {named(one.operation)}:{" "}
          {one.lines > 0
            ? `${one.lines} lines, ${clock(one.seconds)}. `
            : "it gives no time, see the findings. "}
          <button
            type="button"
            className="act"
            onClick={() =>
              void change({
                change: "detach-program",
                setup: program.setup,
                operation: one.operation,
              })
            }
          >
            Take it off
          </button>
        </p>
      ))}
      <div className="elsewhere">
        <label>
          For{" "}
          <Form.Select
            bsPrefix="choice"
            aria-label="Timed by a program"
            value={operation}
            onChange={(e) => setOperation(e.target.value)}
          >
            <option value="">the whole setup</option>
            {program.calls.map((c) => (
              <option key={c.operation} value={c.operation}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        </label>
        <label className="file-choice">
          Program file
          <input
            type="file"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void bringProgram(program.setup, operation, file);
              event.target.value = "";
            }}
          />
        </label>
      </div>
    </>
  );
}
