/** A setup's program followed through the stock: what each tool takes off, and what it runs into. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type SetupProgramView, type TrialMetView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

const OWN = "own";
const ATTACHED = "attached";
type Which = typeof OWN | typeof ATTACHED;

const cm3 = (volume: number) => fixed(volume / 1000, 2);

export function Trial({ program, onLine }: { program: SetupProgramView; onLine: (line: number) => void }) {
  const { plan } = useDesk();
  const [asked, setAsked] = useState<Which | null>(null);
  const setup = plan.setups.find((s) => s.id === program.setup);
  const attached = setup?.attached.find((one) => one.operation === "");
  const tried = useQuery({
    queryKey: ["trial", plan.plan_id, plan.edition, program.setup, asked],
    queryFn: () => api.trial(plan.plan_id, program.setup, asked ?? OWN),
    enabled: asked !== null,
    staleTime: Infinity,
    retry: false,
  });
  const found = tried.data;
  return (
    <>
      <h2>
        In the stock <span>tool after tool, against what holds it</span>
      </h2>
      <p>
        <button type="button" className="act" onClick={() => setAsked(OWN)}>
          Run this program in the stock
        </button>{" "}
        {attached && (
          <button type="button" className="act" onClick={() => setAsked(ATTACHED)}>
            Run {attached.file} in it
          </button>
        )}
      </p>
      {tried.isFetching && <p className="soft">Cutting the stock by it …</p>}
      {tried.error && (
        <p className="finding" role="alert">
          {tried.error.message}
        </p>
      )}
      {found && !tried.isFetching && (
        <div className="trial" aria-label="Run in the stock">
          {[
            ...found.met.map(metWords),
            // with several paths a trouble's title says whose line it is
            ...found.troubles.map((t) => ({
              path: found.uses[0]?.path ? "of its program" : "",
              line: t.line,
              words: `${t.title} ${t.why}`,
            })),
          ].map(({ path, line, words }, i) => (
            <p key={i} className="finding">
              {found.which === OWN && (path === "" || path === program.carriage) ? (
                <button type="button" className="act quiet" onClick={() => onLine(line)}>
                  Line {line}
                </button>
              ) : (
                <b>{path ? `Line ${line}, ${path}` : `Line ${line}`}</b>
              )}
              : {words}
            </p>
          ))}
          {found.met.length + found.troubles.length === 0 && (
            <p role="status">Nothing is run into, nothing cut into the part.</p>
          )}
          <p>
            {clock(found.seconds)}, {cm3(found.removed)} cm³ come off; by the plan’s operations{" "}
            {cm3(found.planned)} cm³.
          </p>
          <Table bsPrefix="ledger-table">
            <thead>
              <tr>
                <th>Tool</th>
                <th className="n">from line</th>
                <th className="n">s</th>
                <th className="n">cm³ off</th>
              </tr>
            </thead>
            <tbody>
              {found.uses.map((use, i) => (
                <tr key={i}>
                  <td>
                    T{use.tool} {use.description}
                    {use.path && <span className="soft"> · {use.path}</span>}
                  </td>
                  <td className="n">{use.line}</td>
                  <td className="n">{fixed(use.seconds, 1)}</td>
                  <td className="n">{cm3(use.removed)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </>
  );
}

const HOW: Record<string, string> = {
  tool: "goes",
  rapid: "goes in rapid",
  holder: "goes with its holder",
  cut: "cuts",
};

function metWords(met: TrialMetView) {
  const what = met.what === "fixture" ? "what holds it" : `the ${met.what}`;
  return {
    path: met.path,
    line: met.line,
    words: `T${met.tool} ${HOW[met.how] ?? met.how} ${fixed(met.amount, 2)} mm into ${what}.`,
  };
}
