/** Order: the sequence in each setup, what must come before what, and what grouping saves. */
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
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { useRef, useState, type KeyboardEvent } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type CycleView, type EntryView, type SetupView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { Findings } from "../../shell/Findings";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Tabs } from "../../shell/Tabs";
import { Precedences } from "../../views/Precedences";
import { TimeStrip, type StripBlock } from "../../views/TimeStrip";
import { ByHand } from "./ByHand";
import { Cycle } from "./Cycle";
import { Orders } from "./Orders";

export function OrderPage() {
  const { plan } = useDesk();
  const [id, setId] = useState(plan.setups[0]?.id ?? "");
  const [chosen, setChosen] = useState<string | null>(null);
  const [asked, setAsked] = useState<Which | null>(null);
  const setup = plan.setups.find((s) => s.id === id) ?? plan.setups[0];
  const cycle = useQuery({
    queryKey: ["cycle", plan.plan_id, plan.edition, setup?.load_id],
    queryFn: () => api.cycle(plan.plan_id, setup?.load_id ?? ""),
    enabled: setup !== undefined,
    placeholderData: keepPreviousData,
  });
  if (!setup) return null;
  const load = cycle.data?.setups.includes(setup.id) ? cycle.data : undefined;
  const several = load !== undefined && load.steps.length > setup.entries.length;
  const usual = several && load.steps.length <= MANY ? "cycle" : "piece";
  const which = load?.fixed && asked === "cycle" ? "piece" : (asked ?? (load?.fixed ? "piece" : usual));
  const graph = load?.graphs.find((one) => one.setup === setup.id);
  return (
    <div className="one-column order-page">
      <h1>
        Order{" "}
        <small>
          {setup.calls} tool calls in {[setup.id, ...setup.lies_with].sort().join(" + ")} ·{" "}
          {setup.grouped_calls} grouped by tool
        </small>
      </h1>
      <Tabs
        label="Setups"
        tabs={plan.setups.map((s) => ({
          id: s.id,
          words: (
            <>
              <b>{s.id}</b> {s.up} up, {s.entries.length} operations
            </>
          ),
        }))}
        shown={setup.id}
        panel="order-panel"
        onShow={setId}
      />
      <TimeStrip
        blocks={load && which === "cycle" ? cycleBlocks(load) : blocks(setup)}
        total={load && which === "cycle" ? endOf(load) : alone(setup)}
        chosen={chosen}
        onChoose={setChosen}
      />
      <div id="order-panel" className="order-columns" role="tabpanel" aria-labelledby={`tab-${setup.id}`}>
        <section className="scroll" aria-label={`Operations of ${setup.id}`}>
          {load && (
            <p className="which">
              <Choice
                label="Shown"
                values={load.fixed ? WHICH_OF_BAR : WHICH}
                words={WHICH_WORDS}
                value={which}
                onChoose={setAsked}
              />
              <span className="soft">
                {several && !load.fixed && `${BY_WORDS[load.by]}; `}
                {which === "cycle" &&
                  "Space picks steps, Ctrl with a click as well; Ctrl X and Ctrl V move them"}
              </span>
            </p>
          )}
          {which === "graph" && graph ? (
            <Precedences graph={graph} />
          ) : load && which === "cycle" ? (
            <Cycle cycle={load} />
          ) : (
            <Sequence setup={setup} chosen={chosen} onChoose={setChosen} />
          )}
        </section>
        <section aria-label="Sorting" className="scroll">
          <Findings of={(f) => f.chapter === "order" && f.setup === setup.id} />
          <Sorting setup={setup} />
          {load && <ByHand cycle={load} />}
          {load && (load.fixed ? <p className="soft">{load.fixed}</p> : <Orders cycle={load} />)}
        </section>
      </div>
    </div>
  );
}

const MANY = 400; // steps of a cycle that are listed without being asked for

const WHICH = ["cycle", "piece", "graph"] as const;
const WHICH_OF_BAR = ["piece", "graph"] as const;
const WHICH_WORDS = {
  cycle: "the whole cycle",
  piece: "a piece's operations",
  graph: "what comes before what",
};
type Which = (typeof WHICH)[number];
const BY_WORDS = {
  tool: "each tool at all pieces",
  operation: "each operation at all pieces",
  piece: "all of one piece, then the next",
  hand: "an order of its own",
};

/** A piece's operations one after the other; on several turrets that is longer than they take. */
const alone = (setup: SetupView) =>
  setup.programs > 1 ? setup.entries.reduce((sum, entry) => sum + entry.total, 0) : setup.cycle;
const endOf = (cycle: CycleView) => cycle.orders[0]?.counts.cycle ?? 0;

/** Runs of one tool of a whole cycle, one after the other. */
function cycleBlocks(cycle: CycleView): StripBlock[] {
  const found: StripBlock[] = [];
  let start = 0;
  for (const step of cycle.steps) {
    found.push({
      id: `${step.piece} ${step.operation}`,
      lane: `T${step.tool} ${step.tool_name}`,
      start,
      change: step.changes_tool ? step.way : 0,
      seconds: step.own + (step.changes_tool ? 0 : step.way),
      label: `${step.name}, piece ${step.piece}`,
    });
    start += step.own + step.way;
  }
  return found;
}

function blocks(setup: SetupView): StripBlock[] {
  const found: StripBlock[] = [];
  setup.entries.reduce((start, entry) => {
    const change = entry.seconds.find((s) => s.category === "tool change")?.seconds ?? 0;
    found.push({
      id: entry.id,
      lane: `T${entry.tool.number} ${entry.tool.description}`,
      start,
      change,
      seconds: entry.total - change,
      label: entry.name,
    });
    return start + entry.total;
  }, 0);
  return found;
}

function Sorting({ setup }: { setup: SetupView }) {
  const { change } = useDesk();
  const send = (kind: "group-by-tool" | "order-by-rule") => void change({ change: kind, setup: setup.id });
  const least = setup.calls === setup.grouped_calls;
  return (
    <>
      <h2>
        Of a piece <span>within what must come before</span>
      </h2>
      <p>
        {setup.calls} tool calls a cycle,{" "}
        {least ? "grouped by tool there are no fewer." : `${setup.grouped_calls} if grouped.`}
      </p>
      <p className="cures">
        {!least && (
          <button type="button" className="act" onClick={() => send("group-by-tool")}>
            Group by tool, −{fixed(setup.grouping_saves, 1)} s
          </button>
        )}
        {setup.order_decided && (
          <button type="button" className="act quiet" onClick={() => send("order-by-rule")}>
            Back to the order by the rule
          </button>
        )}
      </p>
      <p className="soft">
        Move an operation: drag it by its number, or give its row the focus and press <kbd>Alt</kbd>{" "}
        <kbd>↑</kbd> <kbd>↓</kbd>. What would break a precedence is refused with the reason.
      </p>
    </>
  );
}

function Sequence(props: { setup: SetupView; chosen: string | null; onChoose: (id: string) => void }) {
  const { setup, chosen, onChoose } = props;
  const { change } = useDesk();
  const body = useRef<HTMLTableSectionElement>(null);
  const ids = setup.entries.map((e) => e.id);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor),
  );

  async function move(from: number, to: number) {
    const id = ids[from];
    if (id === undefined || to < 0 || to >= ids.length || from === to) return;
    await change({ change: "set-order", setup: setup.id, order: arrayMove(ids, from, to) });
    requestAnimationFrame(() =>
      body.current?.querySelector<HTMLElement>(`[data-id="${CSS_escape(id)}"]`)?.focus(),
    );
  }
  function onDragEnd({ active, over }: DragEndEvent) {
    if (over) void move(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
  }
  function onKeyDown(event: KeyboardEvent<HTMLTableRowElement>, index: number) {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    if (event.altKey) void move(index, index + step);
    else body.current?.querySelectorAll<HTMLElement>("tr")[index + step]?.focus();
  }
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th className="n">Op</th>
            <th>Operation</th>
            <th>Tool</th>
            <th>After</th>
            <th className="n">work s</th>
            <th className="n">change s</th>
          </tr>
        </thead>
        <tbody ref={body}>
          <SortableContext items={ids} strategy={verticalListSortingStrategy}>
            {setup.entries.map((entry, i) => (
              <Row
                key={entry.id}
                entry={entry}
                index={i}
                chosen={entry.id === chosen}
                onFocus={() => onChoose(entry.id)}
                onKeyDown={(event) => onKeyDown(event, i)}
              />
            ))}
          </SortableContext>
        </tbody>
      </Table>
    </DndContext>
  );
}

const CSS_escape = (text: string) => window.CSS.escape(text);

function Row(props: {
  entry: EntryView;
  index: number;
  chosen: boolean;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent<HTMLTableRowElement>) => void;
}) {
  const { entry, index, chosen, onFocus, onKeyDown } = props;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: entry.id });
  const change = entry.seconds.find((s) => s.category === "tool change")?.seconds ?? 0;
  // that the top is faced first is said only where nothing nearer is
  const nearest = [...entry.after].sort(
    (a, b) => Number(a.reason.includes("faced")) - Number(b.reason.includes("faced")),
  );
  const reasons = [...new Set(nearest.map((a) => a.reason))];
  return (
    <tr
      ref={setNodeRef}
      data-id={entry.id}
      tabIndex={0}
      className={[chosen ? "sel" : "", isDragging ? "dragging" : ""].join(" ")}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
    >
      <td className="n handle" {...listeners} title="Drag to move">
        {10 * (index + 1)}
      </td>
      <td className="op-name" title={entry.name}>
        {entry.name}
      </td>
      <td>
        T{entry.tool.number} {entry.tool.description}
      </td>
      <td className="soft after" title={entry.after.map((a) => `${a.name}: ${a.reason}`).join("\n")}>
        {reasons.join(", ")}
      </td>
      <td className="n">{fixed(entry.total - change, 1)}</td>
      <td className="n">{change ? fixed(change, 1) : "–"}</td>
    </tr>
  );
}
