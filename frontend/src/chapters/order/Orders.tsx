/** Orders of a load beside the present one: plain ones, sorts by keys, and the best that is found, with its bound. */
import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Form, Table } from "react-bootstrap";
import type { ChangeOf } from "../../api/changes";
import { api, type BestView, type CycleView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { TimeStrip } from "../../views/TimeStrip";

type Counts = CycleView["orders"][number]["counts"];
type SortKey = ChangeOf<"sort-steps">["keys"][number]["by"];

const NAMES: Record<string, string> = {
  now: "as it is now",
  piece: "piece by piece",
  step: "step by step",
  tool: "tool by tool",
};
const POLICY = { piece: "piece", step: "operation", tool: "tool" } as const;

export function Orders({ cycle }: { cycle: CycleView }) {
  const { change } = useDesk();
  const now = cycle.orders[0]?.counts;
  const shown = shownOf(cycle);
  const { several } = shown;
  if (!now) return null;
  return (
    <>
      <h2>
        Plain orders <span>of the whole cycle, seconds as it runs</span>
      </h2>
      <Table bsPrefix="ledger-table" className="orders">
        <thead>
          <CountHeads {...shown}>
            <th aria-label="Take it" />
          </CountHeads>
        </thead>
        <tbody>
          {cycle.orders.map((one) => (
            <tr key={one.name} className={one.name === "now" ? "here" : undefined}>
              <th scope="row">{NAMES[one.name] ?? one.name}</th>
              <CountCells counts={one.counts} {...shown} />
              <td>
                {several && one.name !== "now" && (
                  <button
                    type="button"
                    className="act quiet"
                    aria-label={`Take ${NAMES[one.name]}`}
                    onClick={() =>
                      void change({
                        change: "set-piece-order",
                        load: cycle.load,
                        by: POLICY[one.name as keyof typeof POLICY],
                      })
                    }
                  >
                    Take
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="soft">
        On this machine a change of tool costs {fixed(cycle.times.tool_change, 1)} s with its ways
        {cycle.angles.length > 1 &&
          `, an index ${fixed(cycle.times.index + 90 * cycle.times.per_degree, 1)} s for 90°`}
        {several && `, a hop to another piece ${fixed(cycle.times.piece, 1)} s`}.
      </p>
      <Sort cycle={cycle} />
      <Best cycle={cycle} />
    </>
  );
}

type Shown = { indexed: boolean; several: boolean };
const shownOf = (cycle: CycleView): Shown => ({
  indexed: cycle.angles.length > 1,
  several: cycle.pieces > 1,
});

function CountHeads({ indexed, several, children }: Shown & { children?: ReactNode }) {
  return (
    <tr>
      <th />
      <th className="n">tools</th>
      {indexed && (
        <th className="n" title="How often the rotary turns, and how far in all">
          indexes
        </th>
      )}
      {several && <th className="n">hops</th>}
      <th className="n">cycle s</th>
      <th className="n" title="What the cycle's seconds cost a piece: machine and the share of an operator">
        each
      </th>
      {children}
    </tr>
  );
}

function CountCells({ counts, indexed, several }: Shown & { counts: Counts }) {
  return (
    <>
      <td className="n">{counts.tool}</td>
      {indexed && (
        <td className="n">
          {counts.index}, {fixed(counts.degrees, 0)}°
        </td>
      )}
      {several && <td className="n">{counts.piece}</td>}
      <td className="n">{fixed(counts.cycle, 1)}</td>
      <td className="n">{fixed(counts.each, 2)}</td>
    </>
  );
}

const KEYS = ["", "tool", "angle", "offset", "operation", "piece", "setup"] as const;
const KEY_WORDS = {
  "": "nothing more",
  tool: "tool",
  angle: "angle",
  offset: "work offset",
  operation: "operation number",
  piece: "piece",
  setup: "setup",
};

function Sort({ cycle }: { cycle: CycleView }) {
  const { change } = useDesk();
  const [keys, setKeys] = useState<(SortKey | "")[]>(["tool", "angle", "piece"]);
  const [angles, setAngles] = useState("");
  const used = keys.filter((key): key is SortKey => key !== "");
  const doubled = new Set(used).size < used.length;
  const values = angles
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map((word) => `${Number(word.replace("°", ""))}°`);
  return (
    <>
      <h2>
        Sort <span>never past what must come before</span>
      </h2>
      <div className="fields">
        {keys.map((key, k) => (
          <Choice
            key={k}
            label={["By", "then by", "and then by"][k] ?? "by"}
            values={KEYS}
            words={KEY_WORDS}
            value={key}
            onChoose={(chosen) => setKeys(keys.map((old, i) => (i === k ? chosen : old)))}
          />
        ))}
        {used.includes("angle") && cycle.angles.length > 1 && (
          <label>
            Angles in the order
            <Form.Control
              bsPrefix="field"
              value={angles}
              placeholder={cycle.angles.join(", ")}
              onChange={(event) => setAngles(event.target.value)}
            />
          </label>
        )}
        <button
          type="button"
          className="act"
          disabled={doubled || used.length === 0}
          onClick={() =>
            void change({
              change: "sort-steps",
              load: cycle.load,
              keys: used.map((by) => ({ by, values: by === "angle" ? values : [] })),
            })
          }
        >
          Sort the cycle
        </button>
      </div>
      {doubled && <p className="debit">Each key is sorted by once.</p>}
    </>
  );
}

const GOALS = [
  "seconds",
  "tool,index,piece",
  "tool,piece,index",
  "index,tool,piece",
  "piece,tool,index",
] as const;
const GOAL_WORDS = {
  seconds: "the fewest seconds",
  "tool,index,piece": "fewest tools, then indexes, then hops",
  "tool,piece,index": "fewest tools, then hops, then indexes",
  "index,tool,piece": "fewest indexes, then tools, then hops",
  "piece,tool,index": "fewest hops, then tools, then indexes",
};
const LIMITS = ["5", "10", "30", "60"] as const;
const LIMIT_WORDS = { "5": "5 s", "10": "10 s", "30": "30 s", "60": "1 minute" };

function Best({ cycle }: { cycle: CycleView }) {
  const { plan, change } = useDesk();
  const [goal, setGoal] = useState<(typeof GOALS)[number]>("seconds");
  const [limit, setLimit] = useState<(typeof LIMITS)[number]>("10");
  const [asked, setAsked] = useState("");
  const question = `${plan.edition} ${cycle.load} ${goal} ${limit}`;
  const found = useQuery({
    queryKey: ["best-order", plan.plan_id, question],
    queryFn: ({ signal }) => api.bestOrder(plan.plan_id, cycle.load, goal, Number(limit), signal),
    enabled: asked === question,
    staleTime: Infinity,
    retry: false,
  });
  const best = asked === question ? found.data : undefined;
  return (
    <>
      <h2>
        The best order <span>over all pieces, tools, angles and operations</span>
      </h2>
      <div className="fields">
        <Choice label="Sought" wide values={GOALS} words={GOAL_WORDS} value={goal} onChoose={setGoal} />
        <Choice label="For at most" values={LIMITS} words={LIMIT_WORDS} value={limit} onChoose={setLimit} />
        <button
          type="button"
          className="act"
          disabled={asked === question && found.isFetching}
          onClick={() => setAsked(question)}
        >
          Find the best
        </button>
      </div>
      {asked === question && found.isFetching && <p className="soft">Looking …</p>}
      {asked === question && found.error && <p className="debit">{found.error.message}</p>}
      {best && (
        <Found
          best={best}
          shown={shownOf(cycle)}
          onTake={() =>
            void change({
              change: "set-sequence",
              load: cycle.load,
              sequence: best.sequence,
              found: best.words,
            })
          }
        />
      )}
    </>
  );
}

function Found({ best, shown, onTake }: { best: BestView; shown: Shown; onTake: () => void }) {
  const gain = best.now.counts.cycle - best.found.counts.cycle;
  const end = Math.max(best.now.counts.cycle, best.found.counts.cycle);
  const bound = best.goal.length
    ? best.goal.map((name, k) => `${best.bound[k]} ${name}`).join(", ")
    : `${fixed(best.bound[0] ?? 0, 1)} s of changes`;
  return (
    <>
      <Table bsPrefix="ledger-table" className="orders">
        <thead>
          <CountHeads {...shown} />
        </thead>
        <tbody>
          <tr>
            <th scope="row">now</th>
            <CountCells counts={best.now.counts} {...shown} />
          </tr>
          <tr className="here">
            <th scope="row">found</th>
            <CountCells counts={best.found.counts} {...shown} />
          </tr>
        </tbody>
      </Table>
      <p role="status">
        {best.proven ? (
          <>
            <b>Proven{best.goal.length ? "" : ", by the costs above"}:</b> no order has less than {bound}.
          </>
        ) : (
          <>
            Not proven{best.goal.length ? "" : ", by the costs above"}: no order has less than {bound}; found
            are{" "}
            {best.goal.length
              ? best.goal.map((name) => `${best.found.counts[name]} ${name}`).join(", ")
              : `${fixed(best.found.counts.changes, 1)} s, at most ${fixed(best.found.counts.changes - (best.bound[0] ?? 0), 1)} s too many`}
            .
          </>
        )}{" "}
        {Math.abs(gain) < 0.05
          ? "The cycle takes as long as now."
          : `The cycle takes ${fixed(Math.abs(gain), 1)} s ${gain > 0 ? "less" : "more"}.`}
      </p>
      <Lanes title="now" of={best.now} end={end} />
      <Lanes title="found" of={best.found} end={end} />
      <p className="cures">
        <button type="button" className="act" onClick={onTake}>
          Take this order
        </button>
      </p>
    </>
  );
}

/** An order as lanes of its tools over time, one scale for all that are compared. */
function Lanes({ title, of, end }: { title: string; of: CycleView["orders"][number]; end: number }) {
  if (of.runs.length === 0) return null;
  const blocks = of.runs.map((run, k) => ({
    id: String(k),
    lane: `T${run.tool} ${run.name}`,
    start: run.start,
    change: run.change,
    seconds: run.seconds,
    label: run.name,
  }));
  return (
    <figure className="order-lanes">
      <figcaption>
        {title}, {fixed(of.counts.cycle, 1)} s
      </figcaption>
      <TimeStrip blocks={blocks} total={end} label={`The cycle by tool, ${title}`} narrow />
    </figure>
  );
}
