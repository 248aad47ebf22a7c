/** Which tool an operation takes. What there is to choose from is listed once the choice is gone to: a long table of
 * operations would carry thousands of entries that nobody looks at. */
import { useState } from "react";
import type { EntryView, LeftOutView, LibraryView } from "../../api/client";

type Entry = EntryView | LeftOutView;

export function ToolOfOperation(props: {
  entry: Entry;
  inMachine: readonly string[];
  library: LibraryView | undefined;
  onTake: (tool: string) => void;
}) {
  const { entry, inMachine, library, onTake } = props;
  const [near, setNear] = useState(false);
  const list = () => setNear(true);
  const byHand = entry.edited.includes("tool");
  return (
    <select
      className={byHand ? "tool-choice decided" : "tool-choice"}
      aria-label={`Tool of ${entry.name}`}
      value={entry.tool.id}
      onPointerEnter={list}
      onFocus={list}
      onChange={(event) => onTake(event.target.value)}
    >
      {near ? (
        <Tools entry={entry} inMachine={inMachine} library={library} byHand={byHand} />
      ) : (
        <TheOne tool={entry.tool} />
      )}
    </select>
  );
}

function Tools(props: {
  entry: Entry;
  inMachine: readonly string[];
  library: LibraryView | undefined;
  byHand: boolean;
}) {
  const { entry, inMachine, library, byHand } = props;
  const tools = library?.tools.filter((tool) => entry.tool_kinds.includes(tool.kind)) ?? [entry.tool];
  return (
    <>
      {byHand && <option value="">by the rule</option>}
      {entry.another && (
        <option value={entry.another}>another {entry.tool.description}, in a pocket of its own</option>
      )}
      {!tools.some((tool) => tool.id === entry.tool.id) && <TheOne tool={entry.tool} />}
      {[true, false].map((inside) => {
        const group = tools.filter((tool) => inMachine.includes(tool.id) === inside);
        return (
          group.length > 0 && (
            <optgroup key={String(inside)} label={inside ? "In the machine" : "To be set up"}>
              {group.map((tool) => (
                <TheOne key={tool.id} tool={tool} />
              ))}
            </optgroup>
          )
        );
      })}
    </>
  );
}

function TheOne({ tool }: { tool: { id: string; number: number; description: string } }) {
  return (
    <option value={tool.id}>
      T{tool.number} {tool.description}
    </option>
  );
}
