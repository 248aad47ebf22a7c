/** Which revision the plan makes, and the way to the next one. */
import { Form } from "react-bootstrap";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { ReadingProgress, useReadings } from "../../shell/readings";
import { api } from "../../api/client";
import { useDesk } from "../../shell/plan";

export function Revisions() {
  const { plan } = useDesk();
  const { all, start, forget } = useReadings();
  const picker = useRef<HTMLInputElement>(null);
  const [started, setStarted] = useState<string | null>(null);
  const [flat, setFlat] = useState<File | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const reading = all.find((one) => one.id === started);
  const read = reading?.state === "done" ? reading.revision : "";
  useEffect(() => {
    if (read && started !== null) forget(started);
  }, [read, started, forget]);

  async function send(file: File, thickness = "") {
    setRefusal(null);
    setFlat(null);
    try {
      setStarted((await start(api.newRevision({ file, thickness, job_id: plan.job.id }))).id);
    } catch (error) {
      setRefusal(error instanceof Error ? error.message : String(error));
    }
  }

  const later = plan.revisions.filter((r) => r.letter > plan.job.revision);
  const earlier =
    plan.revisions.length > 1 && plan.revisions.findIndex((r) => r.letter === plan.job.revision) > 0;
  return (
    <div className="revisions">
      <p>
        Revision <b>{plan.job.revision}</b>
        {earlier && (
          <>
            <Link to={`compare/${plan.job.revision}`}>what changed in {plan.job.revision}</Link>
            <Link to="revision-price">what it costs</Link>
          </>
        )}
        {later.map((r) => (
          <Link key={r.letter} to={`compare/${r.letter}`} className="waiting">
            revision {r.letter} waits: compare
          </Link>
        ))}
        <button type="button" className="act quiet" onClick={() => picker.current?.click()}>
          Bring in revision {nextLetter(plan.revisions.at(-1)?.letter ?? "A")}
        </button>
        <input
          ref={picker}
          type="file"
          hidden
          accept=".step,.stp,.dxf,.STEP,.STP,.DXF"
          aria-label="File of the next revision"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file && /\.dxf$/i.test(file.name)) setFlat(file);
            else if (file) void send(file);
          }}
        />
      </p>
      {flat && (
        <form
          className="revision-flat"
          onSubmit={(event) => {
            event.preventDefault();
            const typed = new FormData(event.currentTarget).get("thickness");
            void send(flat, typeof typed === "string" ? typed : "");
          }}
        >
          <label>
            Thickness of {flat.name}, mm
            <Form.Control bsPrefix="entry" name="thickness" inputMode="decimal" required />
          </label>
          <button className="act">Read it</button>
          <button type="button" className="act quiet" onClick={() => setFlat(null)}>
            Not now
          </button>
        </form>
      )}
      {reading && reading.state !== "done" && <ReadingProgress reading={reading} />}
      {refusal && (
        <p className="finding" role="alert">
          {refusal}
        </p>
      )}
    </div>
  );
}

/** Only for the button's words; the server gives the letter. */
function nextLetter(letter: string): string {
  const last = letter.slice(-1);
  return last < "Z" ? letter.slice(0, -1) + String.fromCharCode(last.charCodeAt(0) + 1) : `${letter}A`;
}
