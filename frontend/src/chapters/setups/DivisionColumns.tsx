/** The columns of the division: a setup with its picture and its features, and the place for a new one. */
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { useMemo, type KeyboardEvent, type MouseEvent } from "react";
import type { MeshView, SetupView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection } from "../../shell/selection";
import { Model3D, type Spot } from "../../views/Model3D";
import { CHOSEN } from "../part/tones";
import { rowTitle, setupRows, type SetupRow } from "./setupRows";

const LIT = "#8fb0a1";

type OnKey = (event: KeyboardEvent, ids: string[], from: string, movable: boolean) => void;
type Column = { setup: SetupView; number: number; mesh: MeshView | undefined; onKey: OnKey };

export function SetupColumn({ setup, number, mesh, onKey }: Column) {
  const { plan, change } = useDesk();
  const { chosen, choose } = useSelection();
  const { setNodeRef, isOver } = useDroppable({ id: setup.id });
  const rows = setupRows(plan, setup);
  const tones = useMemo(() => {
    const found = new Map<number, string>();
    for (const feature of plan.features) {
      const tone = chosen.has(feature.id) ? CHOSEN : setup.features.includes(feature.id) ? LIT : null;
      if (tone) for (const face of feature.faces) found.set(face, tone);
    }
    return found;
  }, [plan.features, setup.features, chosen]);
  const ofFace = useMemo(
    () => new Map(plan.features.flatMap((f) => f.faces.map((face) => [face, f.id] as const))),
    [plan.features],
  );
  const from = useMemo(() => lookingDown(setup), [setup]);
  const others = plan.setups.filter((s) => s.id !== setup.id);
  return (
    <section
      ref={setNodeRef}
      className={`division-column${isOver ? " over" : ""}`}
      aria-label={`Setup ${setup.id}`}
    >
      <h2>
        <b>
          <span className="setup-number">{number}</span> {setup.id}, {setup.up} up
        </b>
        <span>{clock(setup.cycle)}</span>
      </h2>
      {mesh ? (
        <Model3D
          mesh={mesh}
          tones={tones}
          from={from}
          label={`What ${setup.id} makes`}
          onPick={(face) => {
            const id = face === null ? undefined : ofFace.get(face);
            choose(id ? [id] : []);
          }}
          onHover={() => undefined}
        />
      ) : (
        <p className="empty">Drawing the part …</p>
      )}
      <p className="division-tools">
        <label>
          <input
            type="checkbox"
            checked={setup.locked}
            onChange={(event) =>
              void change({ change: "lock-setup", setup: setup.id, locked: event.target.checked })
            }
          />{" "}
          stays as it is
        </label>
        {others.length > 0 && (
          <select
            aria-label={`Merge ${setup.id} into`}
            value=""
            onChange={(event) =>
              void change({ change: "merge-setups", setup: setup.id, into: event.target.value })
            }
          >
            <option value="">merge into …</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                {other.id}, {other.up} up
              </option>
            ))}
          </select>
        )}
      </p>
      <ul>
        {rows.map((row) => (
          <Chip key={row.ids[0]} row={row} setup={setup} onKey={onKey} />
        ))}
      </ul>
      {rows.length === 0 && <p className="empty">Nothing yet: drag features here.</p>}
    </section>
  );
}

function Chip({ row, setup, onKey }: { row: SetupRow; setup: SetupView; onKey: OnKey }) {
  const { plan } = useDesk();
  const { chosen, choose } = useSelection();
  const movable =
    row.title !== "outline" && row.ids.every((id) => !plan.features.find((f) => f.id === id)?.is_flat_side);
  const first = row.ids[0] ?? "";
  const { setNodeRef, listeners, isDragging, transform } = useDraggable({
    id: `${setup.id}.${first}`,
    data: { ids: row.ids, from: setup.id },
    disabled: !movable,
  });
  const lit = row.ids.every((id) => chosen.has(id));
  function onClick(event: MouseEvent) {
    if (!event.ctrlKey && !event.metaKey) return choose(row.ids);
    const kept = [...chosen].filter((id) => !row.ids.includes(id));
    choose(lit ? kept : [...kept, ...row.ids]);
  }
  return (
    <li>
      <button
        ref={setNodeRef}
        type="button"
        className={`chip${movable ? "" : " fixed"}${isDragging ? " dragged" : ""}`}
        aria-pressed={lit}
        data-feature={first}
        title={movable ? undefined : "stays with the side that it lies on"}
        style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
        {...listeners}
        onClick={onClick}
        onKeyDown={(event) => onKey(event, row.ids, setup.id, movable)}
      >
        <span>{rowTitle(row)}</span>
        <span className="n">{row.seconds ? fixed(row.seconds, 1) : "–"}</span>
      </button>
    </li>
  );
}

export function NewColumn({ id }: { id: string }) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <section
      ref={setNodeRef}
      className={`division-column new${isOver ? " over" : ""}`}
      aria-label="Place for a new setup"
    >
      <p className="empty">Drop a feature here: a setup of its own, with the same side up.</p>
    </section>
  );
}

/** From the front, a little to the right and above, as whoever stands at the machine would see it. */
function lookingDown({ right, back, above }: SetupView): { direction: Spot; above: Spot } {
  const direction = right.map((v, i) => 0.7 * v - (back[i] ?? 0) + 1.1 * (above[i] ?? 0)) as Spot;
  return { direction, above: above as Spot };
}
