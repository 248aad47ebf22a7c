/** Program: each setup's program as it would be issued now, and what the simulated machine makes of it. */
import { Form, Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { among } from "../../api/changes";
import { api, type JoinedView, type SetupProgramView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { FileLink } from "../../shell/FileLink";
import { useDesk } from "../../shell/plan";
import { MachineStrip } from "../../views/MachineStrip";
import { clockMs, type Span } from "../../views/timeAxis";
import { Tabs } from "../../shell/Tabs";
import { Elsewhere } from "./Elsewhere";
import { PartOfLoad } from "./PartOfLoad";
import { ProgramText } from "./ProgramText";
import { Sent } from "./Sent";
import { Trial } from "./Trial";

// the picture brings a large library with it: loaded when first looked at
const PlayPage = lazy(() => import("./PlayPage"));

const PLAY = "play";
const BY_SETUP = "setup";
const BY_MACHINE = "machine";

export function ProgramPage() {
  const { plan } = useDesk();
  const [search, setSearch] = useSearchParams();
  const found = useQuery({
    queryKey: ["program", plan.plan_id, plan.edition],
    queryFn: () => api.programs(plan.plan_id),
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  const programs = found.data?.setups ?? [];
  const playing = search.get("show") === PLAY;
  const shown =
    programs.find((p) => p.id === search.get("setup")) ??
    programs.find((p) => p.setups.includes(search.get("setup") ?? "")) ??
    programs[0];
  if (found.error)
    return (
      <div className="one-column">
        <h1>Program</h1>
        <p className="finding">{found.error.message}</p>
      </div>
    );
  if (!shown)
    return (
      <p className="empty">
        {found.data ? "No operation to write a program for." : "Writing the programs …"}
      </p>
    );
  return (
    <div className="one-column program-page">
      <h1>
        Program{" "}
        <small>
          {shown.file} for {shown.machine} · {clock(shown.total)} on the simulated machine,{" "}
          {apart(shown.difference)} the ledger
        </small>
      </h1>
      <Tabs
        label="Programs"
        shown={playing ? PLAY : shown.id}
        panel="program-panel"
        onShow={(id) => setSearch(id === PLAY ? { show: PLAY } : { setup: id }, { replace: true })}
        tabs={[
          ...programs.map((p) => ({
            id: p.id,
            words: (
              <>
                <b>{p.setups.join(" + ")}</b> {p.carriage} {clock(p.total)}
                {p.troubles.length > 0 && <span className="debit"> {p.troubles.length} to mend</span>}
              </>
            ),
          })),
          { id: PLAY, words: "Play the cycle" },
        ]}
      />
      <div
        id="program-panel"
        className="panel"
        role="tabpanel"
        aria-labelledby={`tab-${playing ? PLAY : shown.id}`}
      >
        {playing ? (
          <Suspense fallback={<p className="empty">Setting up the machine …</p>}>
            <PlayPage />
          </Suspense>
        ) : (
          <Shown
            key={shown.id}
            program={shown}
            issuedBy={found.data?.issued_by ?? BY_SETUP}
            joined={found.data?.joined.find((one) => one.setups.includes(shown.setup))}
          />
        )}
      </div>
    </div>
  );
}

function apart(share: number): string {
  const percent = Math.abs(share) * 100;
  if (percent < 0.005) return "the same as";
  return `${percent.toFixed(2)} % ${share > 0 ? "over" : "under"}`;
}

function Shown(props: { program: SetupProgramView; issuedBy: string; joined: JoinedView | undefined }) {
  const { program, issuedBy, joined } = props;
  const { plan, change } = useDesk();
  const { ran, total } = program;
  const [zoomed, setZoomed] = useState<Span | null>(null); // null: the whole cycle, whatever it takes by now
  const [line, setLine] = useState<number | null>(null);
  const [step, setStep] = useState<number | null>(null);
  const lanes = useMemo(
    () => program.tools.map((t) => ({ tool: t.number, label: `T${t.number} ${t.description}` })),
    [program.tools],
  );
  const span: Span = zoomed && zoomed[1] <= total ? zoomed : [0, total];
  const pick = (at: number) => {
    setStep(at);
    setLine(ran.line[at] ?? null);
  };
  const read = (to: number) => {
    setLine(to);
    const at = ran.line.indexOf(to);
    setStep(at < 0 ? null : at);
  };
  const jump = (number: number) => {
    const at = ran.call.indexOf(number);
    setLine(program.calls.find((c) => c.number === number)?.line ?? 1);
    setStep(at < 0 ? null : at);
  };
  return (
    <>
      <MachineStrip
        ran={ran}
        total={total}
        lanes={lanes}
        span={span}
        onSpan={setZoomed}
        at={step}
        onPick={pick}
      >
        <span className="files">
          {issuedBy === BY_MACHINE && joined && !joined.refused ? (
            <FileLink href={api.machineFile(plan.plan_id, joined.machine)}>
              Program {joined.file} for {joined.setups.join(", ")}
            </FileLink>
          ) : (
            <FileLink href={api.programFile(plan.plan_id, program.setup, program.which)}>
              Program {program.file}
            </FileLink>
          )}
          <FileLink main href={api.packageFile(plan.plan_id)}>
            Program package, ZIP
          </FileLink>
        </span>
      </MachineStrip>
      <p className="readout" aria-live="polite">
        {step === null ? (
          "Choose a bar, or a line of the program."
        ) : (
          <Readout program={program} step={step} />
        )}
      </p>
      <div className="program-columns">
        <section aria-label={`Program of ${program.setup}`}>
          <div className="jumps">
            <label className="jump">
              Operation
              <Form.Select
                bsPrefix="choice"
                aria-label="Operation"
                value={program.calls.find((c) => c.number === ran.call[step ?? -1])?.number ?? ""}
                onChange={(e) => jump(Number(e.target.value))}
              >
                <option value="">main program</option>
                {program.calls.map((c, i) => (
                  <option key={c.number} value={c.number}>
                    {10 * (i + 1)} {c.name}
                  </option>
                ))}
              </Form.Select>
            </label>
            {program.dialects.length > 1 && (
              <label className="jump">
                Written in
                <Form.Select
                  bsPrefix="choice"
                  aria-label="Written in"
                  value={program.dialect_decided ? program.dialect : ""}
                  onChange={(e) =>
                    void change({
                      change: "set-dialect",
                      setup: program.setup,
                      dialect: e.target.value || null,
                    })
                  }
                >
                  <option value="">the usual: {program.dialects[0]?.name}</option>
                  {program.dialects.map((d) => (
                    <option key={d.id} value={d.id}>
                      {d.name}
                    </option>
                  ))}
                </Form.Select>
              </label>
            )}
          </div>
          {joined && <Issued by={issuedBy} joined={joined} />}
          <ProgramText text={program.text} line={line} onLine={read} />
        </section>
        <section className="scroll" aria-label="On the simulated machine">
          <Beside program={program} />
          <PartOfLoad program={program} />
          <Elsewhere program={program} />
          <Trial program={program} onLine={read} />
          <Sent setup={program.setup} />
        </section>
      </div>
    </>
  );
}

/** Whether each setup has a file of its own, or all that a machine makes are in one, with a stop between them. */
function Issued({ by, joined }: { by: string; joined: JoinedView }) {
  const { change } = useDesk();
  return (
    <p className="issued">
      <label className="jump">
        Issued as
        <Form.Select
          bsPrefix="choice"
          aria-label="Issued as"
          value={by}
          onChange={(e) =>
            void change({
              change: "set-issue",
              by: among([BY_SETUP, BY_MACHINE], e.target.value) ?? BY_SETUP,
            })
          }
        >
          <option value={BY_SETUP}>a file for each setup</option>
          <option value={BY_MACHINE}>one file for each machine</option>
        </Form.Select>
      </label>
      {by === BY_MACHINE &&
        (joined.refused ? (
          <span className="debit">
            {joined.setups.join(", ")} keep their own files: {joined.refused}.
          </span>
        ) : (
          <span className="soft">
            {joined.setups.join(", ")} on {joined.name}: {clock(joined.total)}, with a stop between them
            {joined.troubles.length > 0 && `; ${joined.troubles[0]?.title}`}
          </span>
        ))}
    </p>
  );
}

const WORDS: Record<string, string> = {
  cut: "cutting",
  rapid: "rapid",
  tool_change: "tool change",
  index: "index",
  spindle: "spindle start",
  dwell: "dwell",
  probe: "probing",
};

function Readout({ program, step }: { program: SetupProgramView; step: number }) {
  const { ran } = program;
  const call = program.calls.find((c) => c.number === ran.call[step]);
  return (
    <>
      <b>{clockMs(ran.start[step] ?? 0, 3)}</b> {WORDS[ran.kind[step] ?? ""]} for{" "}
      <b>{(ran.seconds[step] ?? 0).toFixed(3)} s</b>, T{ran.tool[step]}, line {ran.line[step]}
      {call ? `, ${call.name}` : ", main program"}
    </>
  );
}

/** The machine's seconds beside the ledger's, what it would stop at, and where the zeros stand. */
function Beside({ program }: { program: SetupProgramView }) {
  return (
    <>
      <h2>
        Seconds <span>{fixed(100 * program.non_cutting, 0)} % of the cycle is not cutting</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th />
            <th className="n">ledger s</th>
            <th className="n">machine s</th>
            <th className="n">apart s</th>
          </tr>
        </thead>
        <tbody>
          {program.seconds
            .filter((one) => one.ledger > 0 || one.machine > 0)
            .map((one) => (
              <tr key={one.category}>
                <th scope="row">{one.category}</th>
                <td className="n">{fixed(one.ledger, 2)}</td>
                <td className="n">{fixed(one.machine, 2)}</td>
                <td className="n">{difference(one.apart)}</td>
              </tr>
            ))}
        </tbody>
        <tfoot>
          <tr>
            <td>cycle</td>
            <td className="n">{fixed(program.cycle.ledger, 2)}</td>
            <td className="n">{fixed(program.cycle.machine, 2)}</td>
            <td className="n">{difference(program.cycle.apart)}</td>
          </tr>
        </tfoot>
      </Table>
      {program.troubles.length === 0 ? (
        <p className="good">
          The machine runs it to the end: travels, tools, lengths, offsets and spindle are in order.
        </p>
      ) : (
        program.troubles.map((t) => (
          <p className="finding" key={`${t.code} ${t.line}`}>
            <b>{t.title}</b> Line {t.line}. {t.why}
          </p>
        ))
      )}
      <h2>Zeros</h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>offset</th>
            <th>side</th>
            <th className="n">X mm</th>
            <th className="n">Y mm</th>
            <th className="n">Z mm</th>
          </tr>
        </thead>
        <tbody>
          {program.offsets.map((o) => (
            <tr key={`${o.word} ${o.side}`}>
              <th scope="row">{o.word}</th>
              <td>{o.side}</td>
              {o.at.map((v, i) => (
                <td className="n" key={"XYZ"[i]}>
                  {fixed(v, 2)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}

function difference(seconds: number): string {
  return Math.abs(seconds) < 0.005 ? "0.00" : `${seconds > 0 ? "+" : "−"}${Math.abs(seconds).toFixed(2)}`;
}
