/** Who makes what: the part once per setup with what is made there lit, features moved by drag or keys. */
import { Table } from "react-bootstrap";
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from "@dnd-kit/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, type KeyboardEvent } from "react";
import { api, type DivisionView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { usePartMesh } from "../../shell/mesh";
import { useDesk } from "../../shell/plan";
import { useSelection } from "../../shell/selection";
import { Beginnings } from "./Beginnings";
import { Machines } from "./Machines";
import { NewColumn, ParkedColumn, SetupColumn } from "./DivisionColumns";

const NEW = "a new setup";
const NOWHERE = "in no setup yet";

export function Division() {
  const { plan, change } = useDesk();
  const { chosen } = useSelection();
  const board = useRef<HTMLDivElement>(null);
  const moved = useRef<string | null>(null);
  const found = useQuery({
    queryKey: ["division", plan.plan_id, plan.edition],
    queryFn: () => api.division(plan.plan_id),
    placeholderData: (last) => last,
  });
  const mesh = usePartMesh();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  // what was moved by a key keeps the focus in its new column
  useEffect(() => {
    if (moved.current === null) return;
    board.current?.querySelector<HTMLElement>(`[data-feature="${moved.current}"]`)?.focus();
    moved.current = null;
  }, [plan.edition]);

  function move(ids: string[], from: string, to: string) {
    if (from === to) return;
    moved.current = ids[0] ?? null;
    const last = plan.setups.at(-1)?.id ?? "S1";
    if (to === NEW)
      void change({ change: "split-setup", setup: from === NOWHERE ? last : from, features: ids, up: null });
    else if (to === NOWHERE) void change({ change: "park-features", features: ids });
    else void change({ change: "move-feature", features: ids, setup: to });
  }

  function onDragEnd({ active, over }: DragEndEvent) {
    const what = active.data.current as { ids: string[]; from: string } | undefined;
    if (what && over) move(what.ids, what.from, String(over.id));
  }

  function onKey(event: KeyboardEvent, ids: string[], from: string, movable: boolean) {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const target = plan.setups[Number(event.key) - 1];
    if (target && movable) move(ids, from, target.id);
    else if (event.key.toLowerCase() === "n" && movable) move(ids, from, NEW);
    else if (event.key === "0" && movable) move(ids, from, NOWHERE);
    else if (!step(event)) return;
    event.preventDefault();
    event.stopPropagation();
  }

  return (
    <div className="division">
      <Verdict found={found.data} chosen={[...chosen]} />
      <Findings of={(f) => f.chapter === "setups" && f.setup === ""} />
      <DndContext sensors={sensors} onDragEnd={onDragEnd}>
        <div className="division-board" ref={board}>
          {plan.parked.length > 0 && <ParkedColumn id={NOWHERE} onKey={onKey} />}
          {plan.setups.map((setup, i) => (
            <SetupColumn key={setup.id} setup={setup} number={i + 1} mesh={mesh.data} onKey={onKey} />
          ))}
          <NewColumn id={NEW} />
        </div>
      </DndContext>
      <p className="soft">
        Drag a feature to another setup, or give it the focus and press the setup’s number; <kbd>N</kbd>{" "}
        splits it off into a setup of its own, <kbd>0</kbd> takes it out. <kbd>Ctrl</kbd> and a click chooses
        several.
      </p>
      <Lost found={found.data} />
      <Machines />
      <Beginnings />
    </div>
  );
}

/** Arrows go through the features of a column and across to the next. */
function step(event: KeyboardEvent): boolean {
  const here = event.currentTarget as HTMLElement;
  const column = here.closest(".division-column");
  const inColumn = (of: Element | null | undefined) => [
    ...(of?.querySelectorAll<HTMLElement>("[data-feature]") ?? []),
  ];
  const at = inColumn(column).indexOf(here);
  let next: HTMLElement | undefined;
  if (event.key === "ArrowDown") next = inColumn(column)[at + 1];
  else if (event.key === "ArrowUp") next = inColumn(column)[at - 1];
  else if (event.key === "ArrowRight") next = inColumn(column?.nextElementSibling).at(0);
  else if (event.key === "ArrowLeft") next = inColumn(column?.previousElementSibling).at(0);
  else return false;
  next?.focus();
  return true;
}

function Verdict({ found, chosen }: { found: DivisionView | undefined; chosen: string[] }) {
  const { plan, change } = useDesk();
  if (!found) return <p className="soft">Looking for a division with fewer setups …</p>;
  const now = plan.setups.length;
  const fewer = found.least < now;
  return (
    <div className="division-verdict">
      <p>
        <b>{now === 1 ? "1 setup." : `${now} setups.`}</b>{" "}
        {fewer
          ? `${found.least} would do: ${found.sides.join(", ")}.`
          : found.least > now
            ? `The whole part takes ${found.least}: ${found.sides.join(", ")}.`
            : found.proven
              ? "No division does with fewer."
              : "None with fewer was found."}{" "}
        <button type="button" className="act" onClick={() => void change({ change: "divide-again" })}>
          Divide again
        </button>{" "}
        <button
          type="button"
          className="act quiet"
          onClick={() => void change({ change: "start-empty", up: (plan.setups[0]?.up ?? "Z+") as "Z+" })}
        >
          Begin by hand
        </button>
        {plan.setups.some((s) => s.locked) && <span className="soft"> around what stays</span>}
      </p>
      <p className="division-wishes">
        {found.together.map((ids) => (
          <Wish key={ids.join()} words={`${ids.join(", ")} in one setup`} features={ids} />
        ))}
        {found.before.map((pair) => (
          <Wish key={pair.join("<")} words={`${pair.join(" before ")}`} features={pair} />
        ))}
        {chosen.length > 1 && (
          <button
            type="button"
            className="act quiet"
            onClick={() => void change({ change: "keep-together", features: chosen })}
          >
            {chosen.length === 2
              ? `${chosen.join(" and ")} in one setup`
              : `These ${chosen.length} in one setup`}
          </button>
        )}
        {chosen.length === 2 &&
          [chosen, [...chosen].reverse()].map(([first = "", then = ""]) => (
            <button
              key={first}
              type="button"
              className="act quiet"
              onClick={() => void change({ change: "come-first", first, then })}
            >
              {first} before {then}
            </button>
          ))}
      </p>
      {found.clashes.length > 0 && (
        <p className="finding">Not to be had with the rest: {found.clashes.join("; ")}.</p>
      )}
    </div>
  );
}

function Wish({ words, features }: { words: string; features: string[] }) {
  const { change } = useDesk();
  return (
    <span className="wish">
      {words}
      <button
        type="button"
        className="act quiet"
        aria-label={`No longer ${words}`}
        onClick={() => void change({ change: "drop-wish", features })}
      >
        no longer
      </button>
    </span>
  );
}

function Lost({ found }: { found: DivisionView | undefined }) {
  if (!found || found.lost.length === 0) return null;
  return (
    <Table bsPrefix="ledger-table">
      <caption>Reached by no setup on three axes</caption>
      <thead>
        <tr>
          <th>Feature</th>
          <th>Machines that could</th>
        </tr>
      </thead>
      <tbody>
        {found.lost.map((one) => (
          <tr key={one.feature}>
            <td>
              {one.feature} {one.title}
            </td>
            <td>{one.machines.join(", ") || "none of the shop’s"}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
