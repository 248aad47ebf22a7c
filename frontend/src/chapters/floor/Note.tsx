/** A few words or a photo to a step, for whoever plans this next. */
import { useState } from "react";
import { floor } from "../../api/floor";
import type { Schemas } from "../../api/types";
import type { Noted } from "./outbox";

const LONGEST_SIDE = 1280; // px of a photo that is kept: enough to see a chip on an edge

type Props = { view: Schemas["FloorView"]; onNote: (event: Noted) => void };

export function Note({ view, onNote }: Props) {
  const [step, setStep] = useState("");
  const [text, setText] = useState("");
  const [trouble, setTrouble] = useState("");
  const titles = Object.fromEntries(view.steps.map((one) => [one.id, one.title]));
  async function photo(file: File | undefined) {
    if (!file) return;
    setTrouble("");
    try {
      onNote({ kind: "photo", step, text: text.trim(), picture: await smaller(file) });
      setText("");
    } catch {
      setTrouble(`${file.name} is no picture that this browser can read; take a JPEG or PNG.`);
    }
  }
  return (
    <section>
      <h2>Notes and photos</h2>
      <div className="floor-row">
        <label>
          To{" "}
          <select value={step} onChange={(event) => setStep(event.target.value)}>
            <option value="">the setup</option>
            {view.steps.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </select>
        </label>
      </div>
      <label className="floor-words">
        Words
        <textarea rows={2} maxLength={500} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <div className="floor-row">
        <label className="thumb file-button">
          Take a photo
          <input
            type="file"
            accept="image/*"
            capture="environment"
            onChange={(event) => {
              void photo(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </label>
        <button
          type="button"
          className="thumb"
          disabled={text.trim() === ""}
          onClick={() => {
            onNote({ kind: "note", step, text: text.trim() });
            setText("");
          }}
        >
          Keep the note
        </button>
      </div>
      {trouble && <p className="finding">{trouble}</p>}
      <Notes plan={view.plan_id} notes={view.book.notes} titles={titles} />
    </section>
  );
}

type NotesProps = {
  plan: number;
  notes: Schemas["FloorNoteView"][];
  titles: Record<string, string | undefined>;
};

export function Notes({ plan, notes, titles }: NotesProps) {
  return (
    <ul className="floor-notes">
      {notes.map((one) => (
        <li key={one.token}>
          {one.photo && (
            <a href={floor.photo(plan, one.photo)}>
              <img
                src={floor.photo(plan, one.photo)}
                alt={one.text || `Photo by ${one.author || "the floor"}`}
              />
            </a>
          )}
          <span>
            {one.text} <small>{[titles[one.step], one.author].filter(Boolean).join(", ")}</small>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** As JPEG, base64, no larger than is needed. */
async function smaller(file: File): Promise<string> {
  const image = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST_SIDE / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(image.width * scale);
  canvas.height = Math.round(image.height * scale);
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", 0.8).split(",")[1] ?? "";
}
