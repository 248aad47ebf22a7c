/** A load's whole cycle, step by step: which piece, which operation, what the way to it costs; moved by drag, keys, typing. */
import { Table } from "react-bootstrap";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { Fragment, memo, useCallback, useRef, useState, type KeyboardEvent, type MouseEvent } from "react";
import type { CycleView, StepView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Again } from "./Again";
import { Picked } from "./Picked";

const NONE: ReadonlySet<string> = new Set();
const keyOf = (step: StepView) => `${step.piece} ${step.operation}`;

export function Cycle({ cycle }: { cycle: CycleView }) {
  const { change } = useDesk();
  const body = useRef<HTMLTableSectionElement>(null);
  const [picked, setPicked] = useState<ReadonlySet<string>>(NONE);
  const [cut, setCut] = useState<ReadonlySet<string>>(NONE);
  const [asked, setAsked] = useState("");
  const steps = cycle.steps;
  const ids = steps.map(keyOf);
  const mixed = cycle.setups.length > 1;
  const several = cycle.pieces > 1;
  const indexed = cycle.angles.length > 1;
  const columns = 6 + Number(several) + Number(mixed) + Number(indexed);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor),
  );

  /** Some steps so that the first of them is at `to` among the others; `id` keeps the focus. */
  const put = useCallback(
    async (chosen: ReadonlySet<string>, to: number, id: string) => {
      const moving = ids.filter((one) => chosen.has(one)).map((one) => pairOf(steps, one));
      const done = await change({ change: "move-steps", load: cycle.load, steps: moving, to });
      requestAnimationFrame(() =>
        body.current?.querySelector<HTMLElement>(`[data-id="${window.CSS.escape(id)}"]`)?.focus(),
      );
      return done;
    },
    [change, cycle.load, ids, steps],
  );
  /** All that are picked with a step, or the step alone. */
  const withPicked = (id: string): ReadonlySet<string> => (picked.has(id) ? picked : new Set([id]));
  const move = (id: string, to: number) => put(withPicked(id), to, id);

  /** How many of the others are before a place. */
  function before(chosen: ReadonlySet<string>, index: number): number {
    return ids.slice(0, index).filter((one) => !chosen.has(one)).length;
  }
  function onDragEnd({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return;
    const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over.id))];
    const id = String(active.id);
    void move(id, before(withPicked(id), from < to ? to + 1 : to));
  }
  function onKeyDown(event: KeyboardEvent<HTMLTableRowElement>, id: string, index: number) {
    if (event.target !== event.currentTarget) return;
    const letter = event.ctrlKey || event.metaKey ? event.key.toLowerCase() : "";
    if (event.key === " ") {
      event.preventDefault();
      setPicked(toggled(picked, id));
      return;
    }
    if (letter === "x") {
      event.preventDefault();
      setCut(withPicked(id));
      return;
    }
    if (letter === "v" && cut.size > 0) {
      event.preventDefault();
      if (!cut.has(id)) void put(cut, before(cut, index), id).then((done) => done && setCut(NONE));
      return;
    }
    if (event.key === "Escape") setCut(NONE);
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    if (event.altKey) void move(id, Math.max(0, before(withPicked(id), index) + step));
    else body.current?.querySelectorAll<HTMLElement>("tr[data-id]")[index + step]?.focus();
  }
  function onClick(event: MouseEvent, id: string) {
    if (event.ctrlKey || event.metaKey) setPicked(toggled(picked, id));
  }
  const chosen = steps.filter((step) => picked.has(keyOf(step)));
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      {chosen.length > 0 && <Picked load={cycle.load} steps={chosen} onDone={() => setPicked(NONE)} />}
      {cut.size > 0 && (
        <p className="picked soft" role="status">
          {cut.size === 1 ? "1 step is" : `${cut.size} steps are`} cut: <kbd>Ctrl</kbd> <kbd>V</kbd> puts{" "}
          {cut.size === 1 ? "it" : "them"} before the row with the focus, <kbd>Esc</kbd> leaves{" "}
          {cut.size === 1 ? "it" : "them"} where {cut.size === 1 ? "it is" : "they are"}.
        </p>
      )}
      <Table bsPrefix="ledger-table" className="cycle-table">
        <thead>
          <tr>
            <th className="n">Position</th>
            {several && <th className="n">Piece</th>}
            {mixed && <th>Setup</th>}
            <th>Operation</th>
            <th>Tool</th>
            {indexed && <th className="n">Angle</th>}
            <th className="n">work s</th>
            <th className="n">way s</th>
          </tr>
        </thead>
        <tbody ref={body}>
          <SortableContext items={ids} strategy={verticalListSortingStrategy}>
            {steps.map((step, k) => (
              <Fragment key={keyOf(step)}>
                {step.section && (
                  <tr className="section">
                    <th colSpan={columns} scope="rowgroup">
                      {step.section}
                    </th>
                  </tr>
                )}
                <Row
                  step={step}
                  index={k}
                  several={several}
                  mixed={mixed}
                  indexed={indexed}
                  picked={picked.has(keyOf(step))}
                  cut={cut.has(keyOf(step))}
                  asked={asked === keyOf(step)}
                  onMove={(to) => void move(keyOf(step), to)}
                  onKeyDown={(event) => onKeyDown(event, keyOf(step), k)}
                  onClick={(event) => onClick(event, keyOf(step))}
                  onAsk={() => setAsked(asked === keyOf(step) ? "" : keyOf(step))}
                />
                {asked === keyOf(step) && step.again && (
                  <tr className="ways">
                    <td colSpan={columns}>
                      <Again load={cycle.load} step={step} onDone={() => setAsked("")} />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </SortableContext>
        </tbody>
      </Table>
    </DndContext>
  );
}

function toggled(picked: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(picked);
  if (!next.delete(id)) next.add(id);
  return next;
}

function pairOf(steps: StepView[], id: string): [string, string] {
  const step = steps.find((one) => keyOf(one) === id);
  return step ? [step.piece, step.operation] : ["", ""];
}

type RowProps = {
  step: StepView;
  index: number;
  several: boolean;
  mixed: boolean;
  indexed: boolean;
  picked: boolean;
  cut: boolean;
  asked: boolean;
  onMove: (to: number) => void;
  onKeyDown: (event: KeyboardEvent<HTMLTableRowElement>) => void;
  onClick: (event: MouseEvent) => void;
  onAsk: () => void;
};

const Row = memo(function Row(props: RowProps) {
  const { step, index, several, mixed, indexed, picked, cut, asked } = props;
  const { onMove, onKeyDown, onClick, onAsk } = props;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: keyOf(step) });
  return (
    <tr
      ref={setNodeRef}
      data-id={keyOf(step)}
      tabIndex={0}
      aria-label={`${step.name}, piece ${step.piece}${picked ? ", picked" : ""}`}
      className={[
        picked ? "sel" : "",
        cut ? "cut" : "",
        isDragging ? "dragging" : "",
        step.changes_tool ? "calls" : "",
        step.run > 0 ? "locked" : "",
      ].join(" ")}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onKeyDown={onKeyDown}
      onClick={onClick}
    >
      <td className="n handle" {...listeners} title="Drag to move">
        <NumberCell
          label={`Position of ${step.name}, piece ${step.piece}`}
          kind="number"
          value={index + 1}
          text={String(index + 1)}
          onCommit={(value) => value !== null && onMove(Math.round(value) - 1)}
        />
      </td>
      {several && <td className="n">{step.piece}</td>}
      {mixed && <td>{step.setup}</td>}
      <td className="op-name" title={step.after.map((a) => `after ${a.name}: ${a.reason}`).join("\n")}>
        {step.name}
        {step.run > 0 && <em className="soft"> in run {step.run}</em>}
      </td>
      <td title={step.again || undefined}>
        T{step.tool} {step.tool_name}
        {step.again && (
          <button
            type="button"
            className="act quiet again"
            aria-expanded={asked}
            aria-label={`Why T${step.tool} is called again for ${step.name}, piece ${step.piece}`}
            onClick={onAsk}
          >
            again
          </button>
        )}
      </td>
      {indexed && <td className="n">{step.angle}°</td>}
      <td className="n">{fixed(step.own, 1)}</td>
      <td className="n">{fixed(step.way, 1)}</td>
    </tr>
  );
}, sameRow);

function sameRow(a: RowProps, b: RowProps): boolean {
  return (
    a.index === b.index &&
    a.several === b.several &&
    a.mixed === b.mixed &&
    a.indexed === b.indexed &&
    a.picked === b.picked &&
    a.cut === b.cut &&
    a.asked === b.asked &&
    a.onMove === b.onMove &&
    JSON.stringify(a.step) === JSON.stringify(b.step)
  );
}
