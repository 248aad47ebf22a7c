/** The frame around every chapter of a plan: heading, rail, sheet, strip, journal. */
import { useCallback, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useNavigate, useParams } from "react-router";
import type { PlanView } from "../api/client";
import { ConflictDialog, Shortcuts } from "./dialogs";
import { Journal } from "./Journal";
import { PlanDesk, useDesk } from "./plan";
import { SelectionProvider, UnitProvider, useUnit } from "./selection";
import { Strip, type Figure } from "./Strip";
import { UnderWay } from "./UnderWay";
import { Trace } from "./Trace";

export const CHAPTERS = [
  ["part", "Part"],
  ["setups", "Setups"],
  ["layout", "Layout"],
  ["operations", "Operations"],
  ["order", "Order"],
  ["balance", "Balance"],
  ["program", "Program"],
  ["price", "Price"],
  ["papers", "Papers"],
  ["alternatives", "Alternatives"],
  ["floor", "Floor"],
] as const;

export function PlanFrame() {
  const id = Number(useParams().id);
  return (
    <PlanDesk key={id} id={id} loading={<p className="empty">Opening the plan …</p>}>
      <SelectionProvider>
        <UnitProvider scope={`plan-${id}`}>
          <Frame />
        </UnitProvider>
      </SelectionProvider>
    </PlanDesk>
  );
}

function typing(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

function Frame() {
  const { plan, undo, redo } = useDesk();
  const navigate = useNavigate();
  const [journal, setJournal] = useState(false);
  const [keys, setKeys] = useState(false);
  const [figure, setFigure] = useState<Figure | null>(null);

  useEffect(() => {
    document.title = `${plan.job.number} ${plan.job.name} · Lean Ledger`;
  }, [plan.job.number, plan.job.name]);

  const onKey = useCallback(
    (event: KeyboardEvent) => {
      const control = event.ctrlKey || event.metaKey;
      if (control && event.key.toLowerCase() === "z") {
        event.preventDefault();
        if (event.target instanceof HTMLElement) event.target.blur();
        if (event.shiftKey) redo();
        else undo();
      } else if (control && event.key.toLowerCase() === "y") {
        event.preventDefault();
        redo();
      } else if (event.altKey && /^[0-9-]$/.test(event.key)) {
        event.preventDefault();
        void navigate(CHAPTERS["1234567890-".indexOf(event.key)]?.[0] ?? "part");
      } else if (!control && !event.altKey && !typing(event.target)) {
        if (event.key === "?") setKeys(true);
        if (event.key === "j") setJournal((shown) => !shown);
        if (event.key === "l") setFigure("cycle");
      }
    },
    [navigate, undo, redo],
  );
  useEffect(() => {
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onKey]);

  return (
    <div className="frame">
      <a className="skip" href="#sheet">
        To the sheet
      </a>
      <Heading plan={plan} onJournal={() => setJournal((shown) => !shown)} onKeys={() => setKeys(true)} />
      <Rail plan={plan} />
      <main className="sheet" id="sheet" tabIndex={-1}>
        <Outlet />
      </main>
      <Strip onOpen={setFigure} />
      <Journal show={journal} onClose={() => setJournal(false)} />
      <Trace figure={figure} onClose={() => setFigure(null)} />
      <Shortcuts show={keys} onClose={() => setKeys(false)} />
      <ConflictDialog />
    </div>
  );
}

function Heading({ plan, onJournal, onKeys }: { plan: PlanView; onJournal: () => void; onKeys: () => void }) {
  const { undo, redo } = useDesk();
  const { unit, setUnit } = useUnit();
  return (
    <header className="heading">
      <Link className="wordmark" to="/" title="All jobs">
        Lean <i>Ledger</i>
      </Link>
      <div className="where">
        {plan.job.number} {plan.job.name}
        <small>
          {plan.plans > 1 && (
            <>
              <b className={plan.chosen ? undefined : "caution"}>{plan.plan_name}</b>
              {plan.chosen ? "" : ", an alternative"} ·{" "}
            </>
          )}
          revision {plan.job.revision} · {plan.material_name} · {plan.quantities.join(", ")} pieces
        </small>
      </div>
      <div className="tools">
        <span role="group" aria-label="Units" className="units">
          {(["mm", "inch"] as const).map((one) => (
            <button key={one} type="button" aria-pressed={unit === one} onClick={() => setUnit(one)}>
              {one}
            </button>
          ))}
        </span>
        <button type="button" onClick={undo} disabled={!plan.can_undo}>
          Undo <kbd>Ctrl Z</kbd>
        </button>
        <button type="button" onClick={redo} disabled={!plan.can_redo}>
          Redo
        </button>
        <button type="button" onClick={onJournal}>
          Journal <b>{plan.lines}</b>
        </button>
        <button type="button" onClick={onKeys} aria-label="Keys" title="Keys">
          <kbd>?</kbd>
        </button>
      </div>
    </header>
  );
}

function Rail({ plan }: { plan: PlanView }) {
  const states = railStates(plan);
  return (
    <nav className="rail" aria-label="Chapters">
      {CHAPTERS.map(([path, name]) => {
        const state = states[path];
        return (
          <NavLink key={path} to={path} className={({ isActive }) => (isActive ? "here" : undefined)}>
            {name}
            <small className={state.tone}>{state.words}</small>
          </NavLink>
        );
      })}
      <UnderWay />
    </nav>
  );
}

type State = { words: string; tone?: "debit" | "caution" };

function railStates(plan: PlanView): Record<(typeof CHAPTERS)[number][0], State> {
  const open = (chapter: string): State | null => {
    const errors = plan.findings.filter((f) => f.chapter === chapter && f.severity === "error").length;
    const warnings = plan.findings.filter((f) => f.chapter === chapter && f.severity === "warning").length;
    if (errors) return { words: `${errors} open`, tone: "debit" };
    if (warnings) return { words: `${warnings} to look at`, tone: "caution" };
    return null;
  };
  const operations = plan.setups.reduce((sum, s) => sum + s.entries.length, 0);
  const loads = plan.setups.filter((s) => s.leads);
  const calls = loads.reduce((sum, s) => sum + s.calls, 0);
  const several = plan.setups.filter((s) => s.pieces > 1);
  const count = (n: number, what: string) => `${n} ${what}${n === 1 ? "" : "s"}`;
  return {
    part: open("part") ?? { words: `${count(plan.features.length, "feature")}, all read` },
    setups: open("setups") ?? { words: `${count(plan.setups.length, "setup")}, held` },
    layout: open("layout") ?? {
      words: several.length > 0 ? `${Math.max(...several.map((s) => s.pieces))} a cycle` : "1 piece a cycle",
    },
    operations: open("operations") ?? { words: `${operations}, none missing` },
    order: open("order") ?? { words: count(calls, "tool call") },
    balance: open("balance") ?? {
      words: plan.beside ? `${plan.beside} carriages at once` : "one after the other",
    },
    program: {
      words: count(
        loads.reduce((sum, s) => sum + s.programs, 0),
        "program",
      ),
    },
    price: open("price") ?? {
      words: `${plan.quantities.length} quantit${plan.quantities.length === 1 ? "y" : "ies"}`,
    },
    papers:
      plan.strip.errors > 0
        ? { words: `held back by ${plan.strip.errors}`, tone: "debit" }
        : !plan.stock_followed
          ? { words: "following the stock …" }
          : { words: `ready, version ${plan.version}` },
    alternatives: { words: plan.plans > 1 ? `${plan.plans} plans` : "one plan" },
    floor: { words: "estimate and actual" },
  };
}
