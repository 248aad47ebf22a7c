/** One operation in the ledger of operations: drawn again only where something of it is another. */
import { Fragment, memo } from "react";
import type { EntryView, LibraryView, OperationChange } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { feedText, fixed, lengthText } from "../../shell/numbers";
import { useActions } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { EntryFigures } from "../../shell/Trace";
import { DepthOf } from "./DepthOf";
import { Pace } from "./Pace";
import { ToolOfOperation } from "./ToolOfOperation";
import { WayOfCutting } from "./WayOfCutting";

const PROBE = "probe"; // has no pace: it cuts nothing

const seconds = (entry: EntryView, category: string) =>
  entry.seconds.find((s) => s.category === category)?.seconds ?? 0;

type RowProps = {
  entry: EntryView;
  position: number;
  inMachine: readonly string[];
  library: LibraryView | undefined;
  chosen: boolean;
  open: boolean;
  onToggle: (entry: EntryView) => void;
};

export const OperationRow = memo(function OperationRow(props: RowProps) {
  const { entry, position, inMachine, library, chosen, open, onToggle } = props;
  return (
    <Fragment>
      <tr className={chosen ? "sel" : undefined}>
        <td className="op-name">
          <button
            type="button"
            className="unfold"
            aria-expanded={open}
            title={entry.name}
            onClick={() => onToggle(entry)}
          >
            <span className="soft">{10 * (position + 1)}</span> {entry.name}
          </button>
        </td>
        <EditCells entry={entry} inMachine={inMachine} row={position} library={library} />
        <td className="n">{fixed(seconds(entry, "cutting"), 1)}</td>
        <td className="n">{fixed(seconds(entry, "rapid"), 1)}</td>
        <td className="n">{entry.changes_tool ? fixed(seconds(entry, "tool change"), 1) : "–"}</td>
        <td className="n">
          <b>{fixed(entry.total, 1)}</b>
        </td>
      </tr>
      {open && (
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
  );
});

type EditName = "n" | "vf" | "ap" | "ae" | "passes" | "allowance";

function EditCells(props: {
  entry: EntryView;
  inMachine: readonly string[];
  row: number;
  library: LibraryView | undefined;
}) {
  const { entry, inMachine, row, library } = props;
  const { change, current } = useActions();
  const { unit } = useUnit();
  const edit = (values: Partial<OperationChange>, operation = entry.id) =>
    change({ change: "edit-operation", operation, ...values });
  const set = (name: EditName, value: number | null) => {
    if (value === null) void edit({ clear: [name] });
    else void edit({ [name]: name === "passes" ? Math.round(value) : value });
  };
  async function paste(name: EditName, values: number[]) {
    const rows = current().setups.find((one) => one.entries.some((e) => e.id === entry.id))?.entries ?? [];
    for (const [i, value] of values.entries()) {
      const target = rows[row + i];
      if (target) await edit({ [name]: name === "passes" ? Math.round(value) : value }, target.id);
    }
  }
  const cell = (name: EditName, label: string, value: number, text: string, kind: "length" | "number") => (
    <td className="n">
      {entry.settable.includes(name) ? (
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
      {name === "n" && entry.constant_vc !== null && (
        <div
          className="soft kept-speed"
          title="the spindle keeps this cutting speed, in m/min: n grows as the diameter falls"
        >
          vc {fixed(entry.constant_vc, 0)}
        </div>
      )}
    </td>
  );
  return (
    <>
      <td>
        <ToolOfOperation
          entry={entry}
          inMachine={inMachine}
          library={library}
          onTake={(tool) => void (tool === "" ? edit({ clear: ["tool"] }) : edit({ tool }))}
        />
      </td>
      {cell("n", "n", entry.n, fixed(entry.n, 0), "number")}
      {cell("vf", "vf", entry.vf, feedText(entry.vf, unit), unit === "mm" ? "number" : "length")}
      {cell("ap", "ap", entry.ap, lengthText(entry.ap, unit, 2), "length")}
      {cell("ae", "ae", entry.ae, lengthText(entry.ae, unit, 2), "length")}
      {cell("passes", "Passes", entry.passes, String(entry.passes), "number")}
      {cell("allowance", "Allowance", entry.allowance, lengthText(entry.allowance, unit, 2), "length")}
    </>
  );
}
