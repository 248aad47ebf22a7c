/** A stopwatch for loading: from the door's opening to the next press of cycle start. */
import { useState } from "react";
import type { FloorEvent } from "../../api/floor";
import type { Schemas } from "../../api/types";
import { fixed } from "../../shell/numbers";
import { useSeconds } from "./FloorPage";
import type { Noted } from "./outbox";

/** Presses nearer than this, in ms, are one thumb that bounced: nobody loads in that time. */
const BOUNCE = 1000;

type Props = { view: Schemas["FloorView"]; waiting: FloorEvent[]; onNote: (event: Noted) => void };

export function Loading({ view, waiting, onNote }: Props) {
  const key = `lean-ledger-loading-${view.plan_id}-${view.setup}`;
  // a page that is opened again goes on counting
  const [since, setSince] = useState(() => localStorage.getItem(key));
  const seconds = useSeconds(since);
  const taken = view.book.loads + waiting.filter((one) => one.kind === "load").length;
  const put = (next: string | null) => {
    if (next) localStorage.setItem(key, next);
    else localStorage.removeItem(key);
    setSince(next);
  };
  function press() {
    if (since === null) return put(new Date().toISOString());
    const lasted = Date.now() - Date.parse(since);
    if (lasted < BOUNCE) return;
    onNote({ kind: "load", seconds: Math.round(lasted / 100) / 10 });
    put(null);
  }
  return (
    <section>
      <h2>Loading</h2>
      <div className="floor-row">
        <span>
          planned {fixed(view.load_seconds, 0)} s{taken > 0 && `, ${taken} taken`}
          {view.book.loading !== null && `: ${fixed(view.book.loading, 1)} s in the mean`}
        </span>
        <button type="button" className="thumb" aria-pressed={since !== null} onClick={press}>
          {since === null ? "Door open" : "Cycle start"}
          <small>{since === null ? "starts the watch" : `${fixed(seconds, 0)} s`}</small>
        </button>
      </div>
      {since !== null && (
        <button type="button" className="act quiet" onClick={() => put(null)}>
          Throw this one away
        </button>
      )}
    </section>
  );
}
