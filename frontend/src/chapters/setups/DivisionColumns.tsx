/** The columns of the division: a setup with its picture and its features, and the place for a new one. */
import { Form } from "react-bootstrap";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { useMemo, type KeyboardEvent, type MouseEvent } from "react";
import type { MeshView, SetupView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection } from "../../shell/selection";
import { Model3D, type Spot } from "../../views/Model3D";
import { CHOSEN } from "../part/tones";
import { isWhole, parkedRows, rowTitle, setupRows, type SetupRow } from "./setupRows";

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
          <span className="setup-number">{number}</span> {setup.id},{" "}
          {setup.hold.free
            ? `${setup.hold.free} free, from ${setup.hold.ways.map((w) => w.side).join(" ")}`
            : `${setup.up} ${setup.hold.spins ? "free, turned" : "up"}`}
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
          <Form.Check.Input
            bsPrefix="tick"
            type="checkbox"
            checked={setup.locked}
            onChange={(event) =>
              void change({ change: "lock-setup", setup: setup.id, locked: event.target.checked })
            }
          />{" "}
          stays as it is
        </label>
        {others.length > 0 && (
          <Form.Select
            bsPrefix="choice"
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
          </Form.Select>
        )}
      </p>
      <ul>
        {rows.map((row) => (
          <Chip key={row.ids[0]} row={row} from={setup.id} onKey={onKey} />
        ))}
      </ul>
      {rows.length === 0 && <p className="empty">Nothing yet: drag features here.</p>}
    </section>
  );
}

function Chip({ row, from, onKey }: { row: SetupRow; from: string; onKey: OnKey }) {
  const { plan } = useDesk();
  const { chosen, choose } = useSelection();
  const movable =
    !isWhole(row) && row.ids.every((id) => !plan.features.find((f) => f.id === id)?.is_flat_side);
  const first = row.ids[0] ?? "";
  const { setNodeRef, listeners, isDragging, transform } = useDraggable({
    id: `${from}.${first}`,
    data: { ids: row.ids, from },
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
        onKeyDown={(event) => onKey(event, row.ids, from, movable)}
      >
        <span>{rowTitle(row)}</span>
        <span className="n">{row.seconds ? fixed(row.seconds, 1) : "–"}</span>
      </button>
    </li>
  );
}

/** What is to be placed by hand; dropping a feature here takes it out of its setup. */
export function ParkedColumn({ id, onKey }: { id: string; onKey: OnKey }) {
  const { plan } = useDesk();
  const { setNodeRef, isOver } = useDroppable({ id });
  const rows = parkedRows(plan);
  return (
    <section
      ref={setNodeRef}
      className={`division-column parked${isOver ? " over" : ""}`}
      aria-label="In no setup yet"
    >
      <h2>
        <b>In no setup yet</b>
        <span>{plan.parked.length}</span>
      </h2>
      <ul>
        {rows.map((row) => (
          <Chip key={row.ids[0]} row={row} from={id} onKey={onKey} />
        ))}
      </ul>
      {rows.length === 0 && <p className="empty">Everything has its setup.</p>}
    </section>
  );
}

export function NewColumn({ id }: { id: string }) {
  const { change } = useDesk();
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <section
      ref={setNodeRef}
      className={`division-column new${isOver ? " over" : ""}`}
      aria-label="Place for a new setup"
    >
      <p className="empty">Drop a feature here: a setup of its own, with the same side up.</p>
      <p className="add-setup">
        Or add one with this side up:{" "}
        {(["Z+", "Z-", "Y+", "Y-", "X+", "X-"] as const).map((side) => (
          <button
            key={side}
            type="button"
            className="act quiet"
            aria-label={`Add a setup with ${side} up`}
            onClick={() => void change({ change: "add-setup", up: side })}
          >
            {side}
          </button>
        ))}
      </p>
    </section>
  );
}

/** From the front, a little to the right and above, as whoever stands at the machine would see it. */
function lookingDown({ right, back, above, hold }: SetupView): { direction: Spot; above: Spot } {
  // what a spindle turns lies: its axis to the right, X up
  const [along, up, away] = hold.spins ? [above, right, back.map((v) => -v)] : [right, above, back];
  const direction = along.map((v, i) => 0.7 * v - (away[i] ?? 0) + 1.1 * (up[i] ?? 0)) as Spot;
  return { direction, above: up as Spot };
}
