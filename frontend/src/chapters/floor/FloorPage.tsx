/** A load at its machine, on a phone: steps, loading, counts, notes. What is ticked is kept here until it is taken. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { author, setAuthor } from "../../api/client";
import { floor, type FloorEvent } from "../../api/floor";
import type { Schemas } from "../../api/types";
import { clock, hoursText } from "../../shell/numbers";
import { Count } from "./Count";
import { Loading } from "./Loading";
import { Note } from "./Note";
import { useOutbox, type Noted } from "./outbox";

type View = Schemas["FloorView"];
type StepView = View["steps"][number];

export function FloorPage() {
  const { id, setup = "" } = useParams();
  const plan = Number(id);
  const [address] = useSearchParams();
  const queries = useQueryClient();
  const found = useQuery({ queryKey: ["floor", plan, setup], queryFn: () => floor.at(plan, setup) });
  const onTaken = useCallback(
    (view: View) => queries.setQueryData(["floor", plan, setup], view),
    [queries, plan, setup],
  );
  const box = useOutbox(plan, setup, onTaken);
  useEffect(() => {
    document.title = `Floor ${setup} · Lean Ledger`;
  }, [setup]);
  const view = found.data;
  if (!view)
    return (
      <main className="floor">
        {found.error ? (
          <p className="finding">
            {found.error.message} <Link to="/">All jobs</Link>
          </p>
        ) : (
          <p className="empty">Opening the setup …</p>
        )}
      </main>
    );
  return (
    <main className="floor">
      <Head view={view} printed={Number(address.get("v")) || null} />
      <Waits waiting={box.waiting.length} offline={box.offline} />
      {box.refused.map((why, i) => (
        <p key={i} className="finding" role="alert">
          Not taken: {why}{" "}
          <button type="button" className="act quiet" onClick={box.forget}>
            Understood
          </button>
        </p>
      ))}
      <h2>Setting up</h2>
      <ol className="floor-steps">
        {view.steps.map((step) => (
          <Step key={step.id} step={ticked(step, box.waiting)} onNote={box.note} />
        ))}
      </ol>
      <p className="soft">
        planned {hoursText(view.setup_hours)} h
        {view.book.setting_up !== null && `, took ${hoursText(view.book.setting_up / 3600)} h`}
      </p>
      <Loading view={view} waiting={box.waiting} onNote={box.note} />
      <Count view={view} waiting={box.waiting} onNote={box.note} />
      <Note view={view} onNote={box.note} />
      <Last view={view} onNote={box.note} waiting={box.waiting} />
    </main>
  );
}

function Head({ view, printed }: { view: View; printed: number | null }) {
  const [name, setName] = useState(author());
  return (
    <header>
      <h1>
        {view.job} {view.name}{" "}
        <small>
          {view.setups.length > 1 ? `setups ${view.setups.join(", ")}` : `setup ${view.setup}`} ·{" "}
          {view.machine}
        </small>
      </h1>
      <p className="soft">
        revision {view.revision}, plan version {view.version} · {view.quantity} pieces, {view.pieces} a cycle
        of {clock(view.cycle)}
      </p>
      {printed !== null && printed !== view.version && (
        <p className="finding" role="alert">
          Your sheet is of version {printed}; the plan is at {view.version}. Ask for a new sheet before you go
          on.
        </p>
      )}
      {view.findings > 0 && (
        <p className="finding">
          {view.findings === 1 ? "A finding of the plan is" : `${view.findings} findings of the plan are`}{" "}
          open.
        </p>
      )}
      <label className="floor-name">
        Who{" "}
        <input
          value={name}
          maxLength={60}
          onChange={(event) => {
            setName(event.target.value);
            setAuthor(event.target.value);
          }}
        />
      </label>
    </header>
  );
}

function Waits({ waiting, offline }: { waiting: number; offline: boolean }) {
  return (
    <p className={offline ? "floor-waits offline" : "floor-waits"} role="status" data-waiting={waiting}>
      {waiting === 0
        ? "All of it is with the office."
        : offline
          ? `No connection. ${waiting} kept on this device; they go out by themselves.`
          : `${waiting} on the way …`}
    </p>
  );
}

/** A step as it looks once what waits has been taken. */
function ticked(step: StepView, waiting: FloorEvent[]): StepView {
  let found = step;
  for (const one of waiting) {
    if (one.kind === "start") {
      if (one.step === step.id) found = { ...found, runs: true, done: false, since: one.at };
      else if (found.runs) found = { ...found, runs: false, done: true, since: null };
    } else if (one.kind === "stop" && one.step === step.id && found.runs)
      found = { ...found, runs: false, done: true, since: null };
  }
  return found;
}

function Step({ step, onNote }: { step: StepView; onNote: (event: Noted) => void }) {
  const running = useSeconds(step.runs ? step.since : null);
  const look = step.runs ? "under-hand" : step.done ? "ticked" : undefined;
  return (
    <li className={look}>
      <div>
        <b>{step.title}</b>
        <ul>
          {step.lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      <button
        type="button"
        className="thumb"
        aria-pressed={step.runs}
        aria-label={`${step.runs ? "End" : "Begin"} ${step.title}`}
        onClick={() => onNote({ kind: step.runs ? "stop" : "start", step: step.id })}
      >
        {step.runs ? "End" : step.done ? "Begin again" : "Begin"}
        <small>
          {step.runs ? clock(step.seconds + running) : step.done ? `took ${clock(step.seconds)}` : ""}
        </small>
      </button>
    </li>
  );
}

/** Seconds since a moment, each second anew. */
export function useSeconds(since: string | null): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [since]);
  if (since === null) return 0;
  return Math.max(0, (now - Date.parse(since)) / 1000);
}

type LastProps = { view: View; waiting: FloorEvent[]; onNote: (event: Noted) => void };

function Last({ view, waiting, onNote }: LastProps) {
  const back = new Set(waiting.filter((one) => one.kind === "take-back").map((one) => one.of));
  const shown = view.last.filter((one) => !back.has(one.token));
  if (shown.length === 0) return null;
  return (
    <>
      <h2>What was noted</h2>
      <ul className="floor-last">
        {shown.map((one) => (
          <li key={one.token}>
            <span>
              {one.words}
              <small>
                {new Date(one.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}
                {one.author && `, ${one.author}`}
              </small>
            </span>
            <button
              type="button"
              className="act quiet"
              aria-label={`Take back: ${one.words}`}
              onClick={() => onNote({ kind: "take-back", of: one.token })}
            >
              Take back
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
