/** The ledger of operations: every value that can be set, every second that it costs. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useSearchParams } from "react-router";
import { api, type EntryView, type LeftOutView, type LibraryView, type SetupView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { fixed } from "../../shell/numbers";
import { useActions, useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { Tabs } from "../../shell/Tabs";
import { LastUsed } from "./LastUsed";
import { OperationRow } from "./OperationRow";
import { ToolOfOperation } from "./ToolOfOperation";
import { ToolUse } from "./ToolUse";
import { Worth } from "./Worth";

const LIST = "list";
const WORTH = "worth";
const TOOLS = "tools";
const TABS = [
  { id: LIST, words: "One by one" },
  { id: WORTH, words: "Worth working on" },
  { id: TOOLS, words: "Tools and their life" },
];

/** px, in the order of the heads. Fixed, so that another figure in one row does not lay out all of them again. */
const COLUMNS = [236, 172, 66, 76, 66, 72, 66, 72, 66, 56, 62, 58];

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
      <Table bsPrefix="ledger-table" className="operations-table">
        <colgroup>
          {COLUMNS.map((width, i) => (
            <col key={i} style={{ width }} />
          ))}
        </colgroup>
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
      </Table>
    </div>
  );
}

/** What is not made: with another tool it may be. */
function LeftOut(props: {
  one: LeftOutView;
  inMachine: readonly string[];
  library: LibraryView | undefined;
}) {
  const { one, inMachine, library } = props;
  const { change } = useActions();
  return (
    <tr className="left-out">
      <th scope="row">{one.name}</th>
      <td>
        <ToolOfOperation
          entry={one}
          inMachine={inMachine}
          library={library}
          onTake={(tool) =>
            void change({
              change: "edit-operation",
              operation: one.id,
              ...(tool === "" ? { clear: ["tool"] } : { tool }),
            })
          }
        />
      </td>
      <td colSpan={10}>left out: this tool would cut the part or what holds it; another may go clear</td>
    </tr>
  );
}

function SetupRows({ setup, library }: { setup: SetupView; library: LibraryView | undefined }) {
  const [open, setOpen] = useState<string | null>(null);
  const { chosen, choose } = useSelection();
  const toggle = useCallback(
    (entry: EntryView) => {
      setOpen((now) => (now === entry.id ? null : entry.id));
      choose(entry.features);
    },
    [choose],
  );
  const spindle = setup.seconds.find((s) => s.category === "spindle")?.seconds ?? 0;
  return (
    <tbody>
      <tr className="group">
        <th colSpan={12} scope="rowgroup">
          Setup {setup.id} · {setup.up} up · {setup.machine_name}
          {setup.lies_with.length > 0 && ` · in one load with ${setup.lies_with.join(", ")}`}
        </th>
      </tr>
      {setup.entries.map((entry, i) => (
        <OperationRow
          key={entry.id}
          entry={entry}
          position={i}
          inMachine={setup.in_machine}
          library={library}
          chosen={entry.features.some((id) => chosen.has(id))}
          open={open === entry.id}
          onToggle={toggle}
        />
      ))}
      {setup.left_out.map((one) => (
        <LeftOut key={one.id} one={one} inMachine={setup.in_machine} library={library} />
      ))}
      <tr className="sum">
        <td colSpan={8}>
          Setup {setup.id}, with spindle starts {fixed(spindle, 1)} s and the return
          {setup.programs > 1 && `: the mean of ${setup.programs} carriages at once, their waits included`}
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
