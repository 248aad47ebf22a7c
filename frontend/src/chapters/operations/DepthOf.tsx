/** How deep an operation goes: a positive number down from where it begins, or to a face that is pointed at. */
import { lazy, Suspense, useState } from "react";
import type { ChangeOf } from "../../api/changes";
import type { EntryView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

// the picture brings a large library with it: loaded when it is asked for
const DepthByFace = lazy(() => import("./DepthByFace"));

export function DepthOf({ entry }: { entry: EntryView }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const [pointing, setPointing] = useState(false);
  const { measured } = entry;
  if (!measured) return null;
  const set = (values: Partial<ChangeOf<"set-depth">>) =>
    change({ change: "set-depth", operation: entry.id, ...values });
  return (
    <fieldset className="depth-of">
      <legend>Depth, down from where it begins</legend>
      <NumberCell
        label={`Depth of ${entry.name}`}
        kind="length"
        unit={unit}
        column="depth"
        value={measured.value}
        text={lengthText(measured.value, unit, 2)}
        decided={measured.words !== ""}
        onCommit={(value) => void set(value === null ? {} : { depth: value })}
      />{" "}
      {unit}{" "}
      <span className={measured.words ? undefined : "soft"}>
        {measured.words || "by the rule, from the model"}
        {measured.words && Math.abs(measured.value - measured.rule) > 0.004 && (
          <span className="soft"> · the rule: {lengthText(measured.rule, unit, 2)}</span>
        )}
      </span>{" "}
      <button type="button" className="act quiet" onClick={() => setPointing(!pointing)}>
        {pointing ? "Put the part away" : "Point at a face"}
      </button>
      {measured.words && (
        <button type="button" className="act quiet" onClick={() => void set({})}>
          Depth by the rule
        </button>
      )}
      {pointing && (
        <Suspense fallback={<p className="empty">Drawing the part …</p>}>
          <DepthByFace entry={entry} set={set} onDone={() => setPointing(false)} />
        </Suspense>
      )}
    </fieldset>
  );
}
