/** A new job: a file, a material, quantities; everything else can wait. */
import { Form } from "react-bootstrap";
import { useEffect, useRef, useState, type FormEvent } from "react";
import { useNavigate } from "react-router";
import { api, type LibraryView } from "../../api/client";
import { isUnderWay, ReadingProgress, useReadings } from "../../shell/readings";

const LAST = "lean-ledger-last-material";

export function NewJob(props: {
  library: LibraryView;
  dropped: File | null;
  first: boolean;
  onClose: () => void;
}) {
  const { library, dropped, first, onClose } = props;
  const navigate = useNavigate();
  const { all, start, forget } = useReadings();
  const [started, setStarted] = useState<string | null>(null);
  const reading = all.find((one) => one.id === started);
  const picker = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(dropped);
  const [material, setMaterial] = useState(localStorage.getItem(LAST) ?? library.materials[0]?.id ?? "");
  const [refusal, setRefusal] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const busy = sending || (reading !== undefined && (isUnderWay(reading) || reading.state === "choose"));
  const isFlat = /\.dxf$/i.test(file?.name ?? "");
  useEffect(() => {
    if (dropped) take(dropped);
  }, [dropped]);

  const planId = reading?.state === "done" ? reading.plan_id : null;
  useEffect(() => {
    if (planId === null || started === null) return;
    forget(started);
    void navigate(`/plans/${planId}/part`);
  }, [planId, started, forget, navigate]);

  function take(next: File) {
    setRefusal(null);
    if (!/\.(step|stp|dxf)$/i.test(next.name))
      setRefusal(`${next.name}: only .step, .stp and .dxf files are read`);
    else if (next.size > 100 * 1024 * 1024)
      setRefusal(
        `${next.name}: the file has ${Math.round(next.size / 1024 / 1024)} MB; at most 100 MB are read`,
      );
    else {
      setFile(next);
      return;
    }
    setFile(null);
  }

  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    if (!file) {
      setRefusal("Choose the part's STEP or DXF file first.");
      return;
    }
    const form = new FormData(event.currentTarget);
    const typed = (name: string) => {
      const value = form.get(name);
      return typeof value === "string" ? value : undefined;
    };
    setSending(true);
    setRefusal(null);
    if (started !== null) forget(started);
    try {
      localStorage.setItem(LAST, material);
      setStarted(
        (
          await start(
            api.newJob({
              file,
              material,
              number: typed("number"),
              name: typed("name"),
              customer: typed("customer"),
              machine: typed("machine"),
              due: typed("due"),
              quantities: typed("quantities"),
              thickness: typed("thickness"),
            }),
          )
        ).id,
      );
    } catch (error) {
      setRefusal(error instanceof Error ? error.message : String(error));
    } finally {
      setSending(false);
    }
  }

  return (
    <section className="newjob" aria-labelledby="newjob-title">
      <h2 id="newjob-title">
        {first ? "Start with a part" : "New job"}{" "}
        <span>a plan and a price are made at once, and can be refined</span>
      </h2>
      <form onSubmit={(event) => void submit(event)}>
        <label
          className={file ? "drop taken" : "drop"}
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => {
            event.preventDefault();
            event.stopPropagation();
            const next = event.dataTransfer.files[0];
            if (next) take(next);
          }}
        >
          <input
            ref={picker}
            type="file"
            accept=".step,.stp,.dxf,.STEP,.STP,.DXF"
            aria-label="STEP or DXF file"
            onChange={(event) => {
              const next = event.target.files?.[0];
              if (next) take(next);
            }}
          />
          {file ? (
            <>
              <b>{file.name}</b> <span>{Math.max(1, Math.round(file.size / 1024))} kB</span>
              {isFlat && (
                <span>
                  outlines inside are cut through; those on a layer such as “slots deep 4” are cut 4 mm deep
                </span>
              )}
            </>
          ) : (
            <>
              <b>Drop a STEP file here</b>{" "}
              <span>or press to pick one; a DXF drawing for flat work does as well</span>
            </>
          )}
        </label>
        <div className="fields">
          <label>
            Material
            <Form.Select
              bsPrefix="choice"
              name="material"
              value={material}
              onChange={(event) => setMaterial(event.target.value)}
            >
              {library.materials.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
          </label>
          <label>
            Quantities
            <Form.Control bsPrefix="entry" name="quantities" defaultValue="10, 50, 250" required />
          </label>
          {isFlat && (
            <label>
              Thickness, mm
              <Form.Control bsPrefix="entry" name="thickness" inputMode="decimal" placeholder="6" required />
            </label>
          )}
          <label>
            Due
            <Form.Control bsPrefix="entry" name="due" type="date" />
          </label>
          <label>
            Part number
            <Form.Control bsPrefix="entry" name="number" placeholder="given by itself" />
          </label>
          <label>
            Part name
            <Form.Control bsPrefix="entry" name="name" placeholder="as the file is called" />
          </label>
          <label>
            Customer
            <Form.Control bsPrefix="entry" name="customer" />
          </label>
          <label>
            Begin on
            <Form.Select bsPrefix="choice" name="machine" defaultValue="">
              <option value="">the machine of the least price</option>
              {library.machines.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
          </label>
        </div>
        {reading && reading.state !== "failed" && <ReadingProgress reading={reading} />}
        {reading?.state === "failed" && (
          <p className="finding" role="alert">
            {reading.error}
          </p>
        )}
        {refusal && (
          <p className="finding" role="alert">
            {refusal}
          </p>
        )}
        <div className="cures">
          <button type="submit" className="act main" disabled={busy}>
            {busy ? "Reading the part …" : "Make the plan"}
          </button>
          {!first && (
            <button type="button" className="act quiet" onClick={onClose}>
              {busy ? "Meanwhile, the jobs" : "Not now"}
            </button>
          )}
        </div>
      </form>
    </section>
  );
}
