/** What came back from the floor of a plan: estimate beside actual, what was ticked, and the way to its pages there. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Table } from "react-bootstrap";
import { Link } from "react-router";
import { floor } from "../../api/floor";
import type { Schemas } from "../../api/types";
import { clock, fixed, hoursText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Notes } from "./Note";

export function PlanFloor() {
  const { plan } = useDesk();
  const queries = useQueryClient();
  const key = ["plan-floor", plan.plan_id, plan.edition];
  const found = useQuery({ queryKey: key, queryFn: () => floor.ofPlan(plan.plan_id), staleTime: 0 });
  const [runs, setRuns] = useState("5");
  const [told, setTold] = useState<{ words: string; refused: boolean } | null>(null);
  const [busy, setBusy] = useState(false);
  const count = /^\d{1,3}$/.test(runs.trim()) ? Number(runs) : 0;
  async function run() {
    setBusy(true);
    try {
      const answer = await floor.run(plan.plan_id, count);
      const programs = answer.runs.length;
      setTold({
        words: `${count} cycle${count === 1 ? "" : "s"} of ${programs} program${programs === 1 ? "" : "s"} came back.`,
        refused: false,
      });
    } catch (error) {
      setTold({ words: (error as Error).message, refused: true });
    }
    setBusy(false);
    await queries.invalidateQueries({ queryKey: key });
  }
  const view = found.data;
  return (
    <div className="one-column">
      <h1>
        Floor{" "}
        <small>
          estimates by the machine’s data beside what came back ·{" "}
          <Link to="/floor">what was measured of all machines</Link>
        </small>
      </h1>
      <p className="issued">
        <label>
          Cycles{" "}
          <input
            className="short"
            inputMode="numeric"
            value={runs}
            onChange={(event) => setRuns(event.target.value)}
          />
        </label>
        <button
          type="button"
          className="act"
          disabled={busy || count < 1 || count > 200 || !plan.stock_followed}
          onClick={() => void run()}
        >
          Run them on the simulated machines
        </button>
        {(count < 1 || count > 200) && <span className="debit">1 to 200 cycles</span>}
        {told && (
          <span role="status" className={told.refused ? "debit" : undefined}>
            {told.words}
          </span>
        )}
      </p>
      {found.error && <p className="finding">{found.error.message}</p>}
      {view && (
        <div className="scroll wide">
          {view.runs > 0 ? <Actual view={view} /> : <p className="empty">No run has come back yet.</p>}
          <Loads view={view} plan={plan.plan_id} />
        </div>
      )}
    </div>
  );
}

type View = Schemas["PlanFloorView"];

function Actual({ view }: { view: View }) {
  return (
    <div className="two-halves">
      <section>
        <BesideTable head="Category, a cycle of each program" rows={view.by_category} />
        <BesideTable head="Program, a cycle" rows={view.by_program} />
      </section>
      <BesideTable head="While this tool is in" rows={view.by_tool} />
    </div>
  );
}

function BesideTable({ head, rows }: { head: string; rows: Schemas["BesideView"][] }) {
  return (
    <Table bsPrefix="ledger-table" className="beside-actual">
      <thead>
        <tr>
          <th>{head}</th>
          <th className="n">estimate s</th>
          <th className="n">actual s</th>
          <th className="n">differs</th>
          <th className="n">runs</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.what}>
            <td>{row.what || "no tool"}</td>
            <td className="n">{fixed(row.planned, 1)}</td>
            <td className="n">{fixed(row.actual, 1)}</td>
            <td className="n">{over(row.over)}</td>
            <td className="n">{row.count}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

const over = (share: number) => `${share >= 0 ? "+" : "−"}${fixed(Math.abs(100 * share), 1)} %`;

function Loads({ view, plan }: { view: View; plan: number }) {
  return (
    <>
      <h2>At the machines</h2>
      {["127.0.0.1", "localhost", "::1"].includes(window.location.hostname) && (
        <p className="soft">
          These codes lead to this computer alone. For phones start the server with --host and --allow-host,
          and open this page under that name.
        </p>
      )}
      <div className="floor-loads">
        {view.loads.map((load) => (
          <section key={load.setup}>
            <svg
              className="floor-code"
              viewBox={`0 0 ${load.code_size} ${load.code_size}`}
              role="img"
              aria-label={`Code of the page of ${load.setup}`}
            >
              <path d={load.code} />
            </svg>
            <div>
              <b>
                {load.setups.join(", ")}, {load.machine}
              </b>{" "}
              <Link to={load.address.replace(/^https?:\/\/[^/]+/, "")}>its page at the machine</Link>
              <Steps load={load} />
              <Counted load={load} />
              <Notes
                plan={plan}
                notes={load.book.notes}
                titles={Object.fromEntries(load.steps.map((step) => [step.id, step.title]))}
              />
            </div>
          </section>
        ))}
      </div>
    </>
  );
}

type LoadView = View["loads"][number];

function Steps({ load }: { load: LoadView }) {
  const longest = Math.max(1, ...load.steps.map((step) => step.seconds));
  return (
    <>
      <div className="step-bars">
        {load.steps.map((step) => (
          <div key={step.id}>
            <span>{step.title}</span>
            <i style={{ width: `${(60 * step.seconds) / longest}%` }} />
            <span className="soft">
              {step.runs ? "under way" : step.done ? clock(step.seconds) : "not begun"}
            </span>
          </div>
        ))}
      </div>
      <p className="soft">
        setting up planned {hoursText(load.setup_seconds / 3600)} h
        {load.book.setting_up !== null && `, took ${hoursText(load.book.setting_up / 3600)} h`}
      </p>
    </>
  );
}

function Counted({ load }: { load: LoadView }) {
  const { loads, loading, good, scrap } = load.book;
  const words = [
    loading !== null &&
      `loading ${fixed(loading, 1)} s, ${loads} taken, planned ${fixed(load.load_seconds, 0)} s`,
    good > 0 && `${good} good`,
    scrap.length > 0 && `scrap: ${scrap.map((one) => `${one.count} ${one.reason}`).join(", ")}`,
  ].filter(Boolean);
  return words.length > 0 ? <p>{words.join(" · ")}</p> : null;
}
