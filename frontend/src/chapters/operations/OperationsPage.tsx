/** The ledger of operations: every value that can be set, every second that it costs. */
import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { useSearchParams } from "react-router";
import { api, type Change, type EntryView, type LibraryView, type SetupView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { NumberCell } from "../../shell/NumberCell";
import { feedText, fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { Tabs } from "../../shell/Tabs";
import { EntryFigures } from "../../shell/Trace";
import { DepthOf } from "./DepthOf";
import { LastUsed } from "./LastUsed";
import { Pace } from "./Pace";
import { ToolUse } from "./ToolUse";
import { WayOfCutting } from "./WayOfCutting";
import { Worth } from "./Worth";

const LIST = "list";
const WORTH = "worth";
const TOOLS = "tools";
const TABS = [
  { id: LIST, words: "One by one" },
  { id: WORTH, words: "Worth working on" },
  { id: TOOLS, words: "Tools and their life" },
];

const PROBE = "probe";
const THREAD = "turn thread";
/** Kinds that go to their depth in one: no steps to set. */
const UNSTEPPED = [
  "spot",
  "drill",
  "ream",
  "bore to size",
  "countersink",
  "mill thread",
  "groove inside",
  "cut off",
  PROBE,
];

const seconds = (entry: EntryView, category: string) =>
  entry.seconds.find((s) => s.category === category)?.seconds ?? 0;

export function OperationsPage() {
  const { plan } = useDesk();
  const [address, setAddress] = useSearchParams();
  const asked = address.get("show") ?? LIST;
  const shown = TABS.some((tab) => tab.id === asked) ? asked : LIST;
  const show = (id: string) => setAddress(id === LIST ? {} : { show: id }, { replace: true });
  const library = useQuery({ queryKey: ["library"], queryFn: api.library });
  const count = plan.setups.reduce((sum, s) => sum + s.entries.length, 0);
  const tools = new Set(plan.setups.flatMap((s) => s.entries.map((e) => e.tool.id))).size;
  return (
    <div className="one-column">
      <h1>
        Operations{" "}
        <small>
          {count} with {tools} tools · type into a number to set it, empty it to go back to the rule
        </small>
      </h1>
      <Findings of={(f) => f.chapter === "operations"} />
      <Tabs label="Operations" tabs={TABS} shown={shown} panel="operations-panel" onShow={show} />
      <div id="operations-panel" className="panel" role="tabpanel" aria-labelledby={`tab-${shown}`}>
        {shown === WORTH && <Worth />}
        {shown === TOOLS && <ToolUse />}
        {shown === LIST && (
          <>
            <LastUsed />
            <OperationsTable library={library.data} />
          </>
        )}
      </div>
    </div>
  );
}

function OperationsTable({ library }: { library: LibraryView | undefined }) {
  const { plan } = useDesk();
  const { unit } = useUnit();
  return (
    <div className="scroll wide">
      <table className="ledger-table operations-table">
        <thead>
          <tr>
            <th>Operation</th>
            <th>Tool</th>
            <th className="n">n rpm</th>
            <th className="n">vf {unit === "mm" ? "mm/min" : "in/min"}</th>
            <th className="n">ap {unit}</th>
            <th className="n">ae {unit}</th>
            <th className="n">passes</th>
            <th className="n">leave {unit}</th>
            <th className="n">cutting s</th>
            <th className="n">rapid s</th>
            <th className="n">change s</th>
            <th className="n">total s</th>
          </tr>
        </thead>
        {plan.setups.map((setup) => (
          <SetupRows key={setup.id} setup={setup} library={library} />
        ))}
      </table>
    </div>
  );
}

function SetupRows({ setup, library }: { setup: SetupView; library: LibraryView | undefined }) {
  const [open, setOpen] = useState<string | null>(null);
  const { chosen, choose } = useSelection();
  const spindle = setup.seconds.find((s) => s.category === "spindle")?.seconds ?? 0;
  return (
    <tbody>
      <tr className="group">
        <th colSpan={12} scope="rowgroup">
          Setup {setup.id} · {setup.up} up · {setup.machine_name}
        </th>
      </tr>
      {setup.entries.map((entry, i) => (
        <Fragment key={entry.id}>
          <tr className={entry.features.some((id) => chosen.has(id)) ? "sel" : undefined}>
            <td className="op-name">
              <button
                type="button"
                className="unfold"
                aria-expanded={open === entry.id}
                title={entry.name}
                onClick={() => {
                  setOpen(open === entry.id ? null : entry.id);
                  choose(entry.features);
                }}
              >
                <span className="soft">{10 * (i + 1)}</span> {entry.name}
              </button>
            </td>
            <EditCells entry={entry} setup={setup} row={i} library={library} />
            <td className="n">{fixed(seconds(entry, "cutting"), 1)}</td>
            <td className="n">{fixed(seconds(entry, "rapid"), 1)}</td>
            <td className="n">{entry.changes_tool ? fixed(seconds(entry, "tool change"), 1) : "–"}</td>
            <td className="n">
              <b>{fixed(entry.total, 1)}</b>
            </td>
          </tr>
          {open === entry.id && (
            <tr className="unfolded">
              <td colSpan={12}>
                <div className="unfolded-pair">
                  <EntryFigures key={entry.id} operation={entry.id} />
                  <div>
                    <WayOfCutting entry={entry} />
                    <DepthOf key={`depth ${entry.id}`} entry={entry} />
                    {entry.kind !== PROBE && (
                      <Pace key={`${entry.id} ${entry.speed} ${entry.feed}`} entry={entry} />
                    )}
                  </div>
                </div>
              </td>
            </tr>
          )}
        </Fragment>
      ))}
      <tr className="sum">
        <td colSpan={8}>
          Setup {setup.id}, with spindle starts {fixed(spindle, 1)} s and the return
        </td>
        {["cutting", "rapid", "tool change"].map((category) => (
          <td key={category} className="n">
            {fixed(setup.seconds.find((s) => s.category === category)?.seconds ?? 0, 1)}
          </td>
        ))}
        <td className="n">{fixed(setup.cycle, 1)}</td>
      </tr>
    </tbody>
  );
}

type EditName = "n" | "vf" | "ap" | "ae" | "passes" | "allowance";

function EditCells(props: {
  entry: EntryView;
  setup: SetupView;
  row: number;
  library: LibraryView | undefined;
}) {
  const { entry, setup, row, library } = props;
  const { change } = useDesk();
  const { unit } = useUnit();
  const edit = (values: Record<string, unknown>, operation = entry.id) =>
    change({ change: "edit-operation", operation, ...values } as Change);
  const set = (name: EditName, value: number | null) => {
    if (value === null) void edit({ clear: [name] });
    else void edit({ [name]: name === "passes" ? Math.round(value) : value });
  };
  async function paste(name: EditName, values: number[]) {
    for (const [i, value] of values.entries()) {
      const target = setup.entries[row + i];
      if (target) await edit({ [name]: name === "passes" ? Math.round(value) : value }, target.id);
    }
  }
  const probes = entry.kind === PROBE;
  const milling = !entry.by_pitch && !UNSTEPPED.includes(entry.kind);
  const tools = library?.tools.filter((tool) => entry.tool_kinds.includes(tool.kind)) ?? [entry.tool];
  const cell = (
    name: EditName,
    label: string,
    value: number,
    text: string,
    kind: "length" | "number",
    can: boolean,
  ) => (
    <td className="n">
      {can ? (
        <NumberCell
          label={`${label} of ${entry.name}`}
          kind={kind}
          unit={unit}
          column={name}
          value={value}
          text={text}
          decided={entry.edited.includes(name)}
          onCommit={(next) => set(name, next)}
          onPasteColumn={(values) => void paste(name, values)}
        />
      ) : (
        <span className="soft">{name === "vf" ? text : "–"}</span>
      )}
    </td>
  );
  return (
    <>
      <td>
        <select
          className={entry.edited.includes("tool") ? "tool-choice decided" : "tool-choice"}
          aria-label={`Tool of ${entry.name}`}
          value={entry.tool.id}
          onChange={(event) =>
            void (event.target.value === "" ? edit({ clear: ["tool"] }) : edit({ tool: event.target.value }))
          }
        >
          {entry.edited.includes("tool") && <option value="">by the rule</option>}
          {!tools.some((tool) => tool.id === entry.tool.id) && (
            <option value={entry.tool.id}>
              T{entry.tool.number} {entry.tool.description}
            </option>
          )}
          {[true, false].map((inside) => {
            const group = tools.filter((tool) => setup.in_machine.includes(tool.id) === inside);
            return (
              group.length > 0 && (
                <optgroup key={String(inside)} label={inside ? "In the machine" : "To be set up"}>
                  {group.map((tool) => (
                    <option key={tool.id} value={tool.id}>
                      T{tool.number} {tool.description}
                    </option>
                  ))}
                </optgroup>
              )
            );
          })}
        </select>
      </td>
      {cell("n", "n", entry.n, fixed(entry.n, 0), "number", !probes)}
      {cell(
        "vf",
        "vf",
        entry.vf,
        feedText(entry.vf, unit),
        unit === "mm" ? "number" : "length",
        !entry.by_pitch && !probes,
      )}
      {cell("ap", "ap", entry.ap, lengthText(entry.ap, unit, 2), "length", milling)}
      {cell("ae", "ae", entry.ae, lengthText(entry.ae, unit, 2), "length", milling)}
      {cell(
        "passes",
        "Passes",
        entry.passes,
        String(entry.passes),
        "number",
        milling || entry.kind === THREAD,
      )}
      {cell(
        "allowance",
        "Allowance",
        entry.allowance,
        lengthText(entry.allowance, unit, 2),
        "length",
        milling && entry.kind !== "face" && entry.kind !== "chamfer",
      )}
    </>
  );
}
