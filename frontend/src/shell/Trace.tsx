/** Follows a figure of the strip down to setups, operations and formulas. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Modal, Table } from "react-bootstrap";
import { api, type EntryView, type FigureView, type PlanView, type SecondsView } from "../api/client";
import { Finding } from "./Findings";
import { clock, fixed, hoursText, moneyText } from "./numbers";
import { useDesk } from "./plan";
import type { Figure } from "./Strip";
import { shortened } from "./words";

const TITLES: Record<Figure, string> = {
  cycle: "Cycle per piece",
  piece: "Cycle and handling per piece",
  setup: "Setting up",
  each: "Price each",
  findings: "Findings",
};

export function Trace({ figure, onClose }: { figure: Figure | null; onClose: () => void }) {
  const { plan } = useDesk();
  return (
    <Modal show={figure !== null} onHide={onClose} size="xl" scrollable aria-labelledby="trace-title">
      <Modal.Header closeButton>
        <Modal.Title id="trace-title">{figure ? TITLES[figure] : ""}</Modal.Title>
      </Modal.Header>
      <Modal.Body tabIndex={0}>
        {figure === "findings" && <AllFindings plan={plan} />}
        {(figure === "cycle" || figure === "piece") && <Seconds plan={plan} handling={figure === "piece"} />}
        {figure === "setup" && <SettingUp plan={plan} />}
        {figure === "each" && <Each plan={plan} />}
      </Modal.Body>
    </Modal>
  );
}

function AllFindings({ plan }: { plan: PlanView }) {
  if (plan.findings.length === 0) return <p>Nothing was found. The plan can be released.</p>;
  return (
    <>
      {plan.findings.map((finding, i) => (
        <Finding key={i} finding={finding} />
      ))}
    </>
  );
}

const STANDING = ["handling", "hand work", "waiting"];
const MEASURED = "as measured";
const RARE = ["dwell", "probing", "hand work", "waiting", "pick-off", MEASURED];

function Seconds({ plan, handling }: { plan: PlanView; handling: boolean }) {
  const [open, setOpen] = useState<string | null>(null);
  const categories = plan.strip.seconds
    .filter(
      (s) =>
        (handling || !STANDING.includes(s.category)) &&
        (!RARE.includes(s.category) || Math.abs(s.seconds) > 0.0005),
    )
    .map((s) => s.category);
  return (
    <Table bsPrefix="ledger-table">
      <thead>
        <tr>
          <th>Operation</th>
          {categories.map((c) => (
            <th key={c} className="n">
              {c} s
            </th>
          ))}
          <th className="n">total s</th>
        </tr>
      </thead>
      {plan.setups.map((setup) => {
        const whole = setup.attached.find((a) => a.operation === "");
        const entries = whole ? [] : setup.entries;
        // of several turrets that work at once the setup's seconds are the mean: together they are so often as many
        const turrets = whole ? 1 : Math.max(1, setup.programs);
        const all = (s: SecondsView) => (BY_PEOPLE.includes(s.category) ? 1 : turrets) * s.seconds;
        const rest = setup.seconds.map(
          (s) => all(s) - entries.reduce((sum, e) => sum + of(e, s.category), 0),
        );
        const left = (category: string) => rest[setup.seconds.findIndex((s) => s.category === category)] ?? 0;
        const total = handling ? setup.cycle + setup.standing : setup.cycle;
        const together = total + (turrets - 1) * setup.cycle;
        return (
          <tbody key={setup.id}>
            <tr className="group">
              <th colSpan={categories.length + 2} scope="rowgroup">
                Setup {setup.id}, {setup.machine_name}
              </th>
            </tr>
            {entries.map((entry) => (
              <EntryRows
                key={entry.id}
                entry={entry}
                categories={categories}
                open={open === entry.id}
                onToggle={() => setOpen(open === entry.id ? null : entry.id)}
              />
            ))}
            <tr>
              <td>
                {whole
                  ? `Program ${whole.file}, ${whole.lines} lines, in place of ${setup.entries.length} operations`
                  : turrets > 1
                    ? "Back to the change position, waiting for one another"
                    : "Back to the change position"}
                {handling && "; load and unload, by hand, waiting"}
              </td>
              {categories.map((c) => (
                <td key={c} className="n">
                  {dash(c === MEASURED ? 0 : left(c))}
                </td>
              ))}
              <td className="n">
                {fixed(together - entries.reduce((sum, e) => sum + e.total, 0) - left(MEASURED), 1)}
              </td>
            </tr>
            {left(MEASURED) !== 0 && (
              <tr>
                <td>More than by the machine’s data, as measured on the floor</td>
                {categories.map((c) => (
                  <td key={c} className="n">
                    {dash(c === MEASURED ? left(c) : 0)}
                  </td>
                ))}
                <td className="n">{fixed(left(MEASURED), 1)}</td>
              </tr>
            )}
            {setup.measured.length > 0 && (
              <tr className="unfolded">
                <td colSpan={categories.length + 2}>
                  <Figures figures={setup.measured} />
                </td>
              </tr>
            )}
            {turrets > 1 && (
              <tr>
                <td>{turrets} carriages together</td>
                {categories.map((c) => {
                  const found = setup.seconds.find((s) => s.category === c);
                  return (
                    <td key={c} className="n">
                      {dash(found ? all(found) : 0)}
                    </td>
                  );
                })}
                <td className="n">{fixed(together, 1)}</td>
              </tr>
            )}
            <tr className="sum">
              <td>
                Setup {setup.id}
                {turrets > 1 && `, ${turrets} carriages at once: the mean of them`}
              </td>
              {categories.map((c) => (
                <td key={c} className="n">
                  {fixed(setup.seconds.find((s) => s.category === c)?.seconds ?? 0, 1)}
                </td>
              ))}
              <td className="n">
                {fixed(total, 1)} = {clock(total)}
              </td>
            </tr>
          </tbody>
        );
      })}
      <tfoot>
        <tr>
          <td>A piece</td>
          {categories.map((c) => (
            <td key={c} className="n">
              {fixed(plan.strip.seconds.find((s) => s.category === c)?.seconds ?? 0, 1)}
            </td>
          ))}
          <td className="n">{clock(handling ? plan.strip.per_piece : plan.strip.cycle)}</td>
        </tr>
      </tfoot>
    </Table>
  );
}

const BY_PEOPLE = ["handling", "hand work"];
const of = (entry: EntryView, category: string) =>
  entry.seconds.find((s) => s.category === category)?.seconds ?? 0;
const dash = (value: number) => (Math.abs(value) < 0.05 ? "–" : fixed(value, 1));

function EntryRows(props: { entry: EntryView; categories: string[]; open: boolean; onToggle: () => void }) {
  const { entry, categories, open, onToggle } = props;
  return (
    <>
      <tr>
        <td>
          <button type="button" className="unfold" aria-expanded={open} onClick={onToggle}>
            {entry.name}
          </button>
        </td>
        {categories.map((c) => (
          <td key={c} className="n">
            {dash(of(entry, c))}
          </td>
        ))}
        <td className="n">{fixed(entry.total, 1)}</td>
      </tr>
      {open && (
        <tr className="unfolded">
          <td colSpan={categories.length + 2}>
            <p>
              T{entry.tool.number} {entry.tool.description}
              {entry.features.length > 0 && ` on ${shortened(entry.features)}`}
            </p>
            <EntryFigures operation={entry.id} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Whole numbers as they are, others to three figures or so. */
function figureText(value: number): string {
  const size = Math.abs(value);
  return fixed(value, Number.isInteger(value) || size >= 100 ? 0 : size >= 10 ? 1 : 3);
}

/** Each number of an operation with its formula, asked for once it is looked at. */
export function EntryFigures({ operation }: { operation: string }) {
  const { plan } = useDesk();
  const found = useQuery({
    queryKey: ["figures", plan.plan_id, plan.edition, operation],
    queryFn: () => api.figures(plan.plan_id, operation),
    placeholderData: keepPreviousData,
  });
  if (found.error) return <p className="finding">{found.error.message}</p>;
  return <Figures figures={found.data ?? []} />;
}

export function Figures({ figures }: { figures: FigureView[] }) {
  return (
    <Table bsPrefix="figures">
      <tbody>
        {figures.map((f) => (
          <tr key={f.label}>
            <th scope="row">{f.label}</th>
            <td>{f.formula}</td>
            <td className="n">
              {figureText(f.value)} {f.unit}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function SettingUp({ plan }: { plan: PlanView }) {
  return (
    <Table bsPrefix="ledger-table" className="narrow">
      <thead>
        <tr>
          <th>Setup</th>
          <th className="n">tools</th>
          <th>how</th>
          <th className="n">h:min</th>
        </tr>
      </thead>
      <tbody>
        {plan.setups.map((setup) => (
          <tr key={setup.id}>
            <td>
              {setup.id}, {setup.machine_name}
            </td>
            <td className="n">{new Set(setup.entries.map((e) => e.tool.id)).size}</td>
            <td>
              {setup.hours_decided ? "set by hand" : "a base and a share for each tool, by the shop's rates"}
              {setup.measured
                .filter((one) => one.label.startsWith("setting up"))
                .map((one) => `; ${one.formula}`)}
            </td>
            <td className="n">{hoursText(Number(setup.setup_hours))}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={3}>Setting up, once for a batch</td>
          <td className="n">{hoursText(Number(plan.strip.setup_hours))}</td>
        </tr>
      </tfoot>
    </Table>
  );
}

function Each({ plan }: { plan: PlanView }) {
  const first = plan.price.quantities[0];
  if (!first) return null;
  const margin = Number(first.price) - Number(first.cost);
  return (
    <>
      <Table bsPrefix="ledger-table" className="narrow">
        <thead>
          <tr>
            <th>
              {first.quantity} pieces, {first.started} started
            </th>
            <th className="n">batch</th>
            <th className="n">each</th>
          </tr>
        </thead>
        <tbody>
          {first.lines.map((line) => (
            <tr key={line.line}>
              <td>{line.line}</td>
              <td className="n">{moneyText(line.cost)}</td>
              <td className="n">{moneyText(Number(line.cost) / first.quantity)}</td>
            </tr>
          ))}
          <tr className="sum">
            <td>cost</td>
            <td className="n">{moneyText(first.cost)}</td>
            <td className="n">{moneyText(Number(first.cost) / first.quantity)}</td>
          </tr>
          <tr>
            <td>margin: cost / (1 − margin)</td>
            <td className="n">{moneyText(margin)}</td>
            <td className="n">{moneyText(margin / first.quantity)}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td>price</td>
            <td className="n">{moneyText(first.price)}</td>
            <td className="n">{moneyText(first.each)}</td>
          </tr>
        </tfoot>
      </Table>
      <Figures
        figures={[
          plan.price.tool_wear,
          ...plan.setups.flatMap((setup) =>
            setup.measured.map((one) => ({ ...one, label: `${setup.id} ${one.label}` })),
          ),
        ]}
      />
    </>
  );
}
