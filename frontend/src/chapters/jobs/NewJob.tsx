/** A new job: a file, a material, quantities; everything else can wait. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, type FormEvent } from "react";
import { useNavigate } from "react-router";
import { api, type LibraryView } from "../../api/client";

const LAST = "lean-ledger-last-material";

export function NewJob(props: {
  library: LibraryView;
  dropped: File | null;
  first: boolean;
  onClose: () => void;
}) {
  const { library, dropped, first, onClose } = props;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(dropped);
  const [material, setMaterial] = useState(localStorage.getItem(LAST) ?? library.materials[0]?.id ?? "");
  const [refusal, setRefusal] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    if (dropped) take(dropped);
  }, [dropped]);

  function take(next: File) {
    setRefusal(null);
    if (!/\.(step|stp)$/i.test(next.name)) setRefusal(`${next.name}: only .step and .stp files are read`);
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
      setRefusal("Choose the part's STEP file first.");
      return;
    }
    const form = new FormData(event.currentTarget);
    form.set("file", file);
    setBusy(true);
    setRefusal(null);
    try {
      localStorage.setItem(LAST, material);
      const plan = await api.addJob(form);
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/plans/${plan}/part`);
    } catch (error) {
      setRefusal(error instanceof Error ? error.message : String(error));
      setBusy(false);
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
            accept=".step,.stp,.STEP,.STP"
            aria-label="STEP file"
            onChange={(event) => {
              const next = event.target.files?.[0];
              if (next) take(next);
            }}
          />
          {file ? (
            <>
              <b>{file.name}</b> <span>{Math.max(1, Math.round(file.size / 1024))} kB</span>
            </>
          ) : (
            <>
              <b>Drop a STEP file here</b> <span>or press to pick one</span>
            </>
          )}
        </label>
        <div className="fields">
          <label>
            Material
            <select name="material" value={material} onChange={(event) => setMaterial(event.target.value)}>
              {library.materials.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
          <label>
            Quantities
            <input name="quantities" defaultValue="10, 50, 250" required />
          </label>
          <label>
            Due
            <input name="due" type="date" />
          </label>
          <label>
            Part number
            <input name="number" placeholder="given by itself" />
          </label>
          <label>
            Part name
            <input name="name" placeholder="as the file is called" />
          </label>
          <label>
            Customer
            <input name="customer" />
          </label>
        </div>
        {refusal && (
          <p className="finding" role="alert">
            {refusal}
          </p>
        )}
        <div className="cures">
          <button type="submit" className="act main" disabled={busy}>
            {busy ? "Reading the part, making the plan …" : "Make the plan"}
          </button>
          {!first && (
            <button type="button" className="act quiet" onClick={onClose} disabled={busy}>
              Not now
            </button>
          )}
        </div>
      </form>
    </section>
  );
}
