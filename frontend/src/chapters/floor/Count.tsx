/** Good pieces and scrap, the scrap with its reason. */
import { useState } from "react";
import type { FloorEvent } from "../../api/floor";
import type { Schemas } from "../../api/types";
import type { Noted } from "./outbox";

type Props = { view: Schemas["FloorView"]; waiting: FloorEvent[]; onNote: (event: Noted) => void };

export function Count({ view, waiting, onNote }: Props) {
  const [count, setCount] = useState("1");
  const [reason, setReason] = useState("");
  const more = (kind: string) =>
    waiting.filter((one) => one.kind === kind).reduce((sum, one) => sum + (one.count ?? 0), 0);
  const good = view.book.good + more("good");
  const scrap = view.book.scrap.reduce((sum, one) => sum + one.count, 0) + more("scrap");
  const pieces = /^[1-9]\d{0,3}$/.test(count.trim()) ? Number(count) : null;
  return (
    <section>
      <h2>Pieces</h2>
      <p className="floor-count">
        <b>{good}</b> good of {view.quantity} · <b className={scrap > 0 ? "debit" : undefined}>{scrap}</b>{" "}
        scrap
        {view.book.scrap.map((one) => (
          <small key={one.reason}>
            {one.count} {one.reason}
          </small>
        ))}
      </p>
      <div className="floor-row">
        <label>
          How many{" "}
          <input inputMode="numeric" value={count} onChange={(event) => setCount(event.target.value)} />
        </label>
        <button
          type="button"
          className="thumb"
          disabled={pieces === null}
          onClick={() => onNote({ kind: "good", count: pieces ?? 1 })}
        >
          {pieces ?? "?"} good
        </button>
      </div>
      <div className="floor-row">
        <label>
          Why scrap{" "}
          <select value={reason} onChange={(event) => setReason(event.target.value)}>
            <option value="">choose a reason</option>
            {view.reasons.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="thumb"
          disabled={pieces === null || reason === ""}
          onClick={() => onNote({ kind: "scrap", count: pieces ?? 1, reason })}
        >
          {pieces ?? "?"} scrap
        </button>
      </div>
    </section>
  );
}
