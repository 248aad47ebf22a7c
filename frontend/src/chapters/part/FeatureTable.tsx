/** All features in groups of alike ones; a row lights its features in the picture. */
import { Form, Table } from "react-bootstrap";
import { useState, type KeyboardEvent } from "react";
import type { FeatureGroupView, FeatureView } from "../../api/client";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { measureText, span } from "./words";

type Order = "kind" | "size" | "setup";

const ORDERS: Record<Order, string> = { kind: "by kind", size: "largest first", setup: "by setup" };

export function FeatureTable() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const { chosen, choose, hover } = useSelection();
  const [words, setWords] = useState("");
  const [order, setOrder] = useState<Order>("kind");
  const byId = new Map(plan.features.map((f) => [f.id, f]));
  const threads = new Map(
    plan.holes.flatMap((h) => (h.thread ? h.features.map((id) => [id, h.thread]) : [])),
  );
  const wanted = words.trim().toLowerCase();
  const groups = ordered(
    plan.groups.filter(
      (g) => !wanted || g.title.includes(wanted) || g.ids.some((id) => id.toLowerCase() === wanted),
    ),
    order,
    byId,
  );

  function onKeyDown(event: KeyboardEvent<HTMLTableRowElement>, ids: string[]) {
    const row = event.currentTarget;
    const next =
      event.key === "ArrowDown"
        ? row.nextElementSibling
        : event.key === "ArrowUp"
          ? row.previousElementSibling
          : null;
    if (next instanceof HTMLElement) {
      event.preventDefault();
      next.focus();
    } else if ((event.key === "Enter" || event.key === " ") && event.target === row) {
      event.preventDefault();
      choose(ids);
    }
  }

  return (
    <>
      <h2>
        Features{" "}
        <span>
          {plan.features.length} in {plan.groups.length} groups
        </span>
        <Form.Select
          bsPrefix="choice"
          className="order-choice"
          aria-label="Order of the features"
          value={order}
          onChange={(event) => setOrder(event.target.value as Order)}
        >
          {Object.entries(ORDERS).map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </Form.Select>
        <Form.Control
          bsPrefix="entry"
          className="search"
          type="search"
          aria-label="Find features"
          placeholder="find"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </h2>
      <Table bsPrefix="ledger-table" className="feature-table">
        <thead>
          <tr>
            <th>Feature</th>
            <th>Which</th>
            <th>Measures, {unit}</th>
            <th>Made in</th>
          </tr>
        </thead>
        <tbody>
          {groups.map((group) => {
            const members = group.ids
              .map((id) => byId.get(id))
              .filter((f): f is FeatureView => f !== undefined);
            const first = members[0];
            if (!first) return null;
            return (
              <tr
                key={group.ids[0]}
                tabIndex={0}
                className={group.ids.some((id) => chosen.has(id)) ? "sel" : undefined}
                aria-selected={group.ids.some((id) => chosen.has(id))}
                onClick={() => choose(group.ids)}
                onMouseEnter={() => hover(group.ids)}
                onMouseLeave={() => hover([])}
                onFocus={() => hover(group.ids)}
                onBlur={() => hover([])}
                onKeyDown={(event) => onKeyDown(event, group.ids)}
              >
                <td>
                  {group.ids.length > 1 && `${group.ids.length} × `}
                  {group.title}
                </td>
                <td className="nowrap">{span(group.ids)}</td>
                <td>
                  {first.measures.map((m) => `${m.label} ${measureText(m, unit)}`).join(", ")}
                  {group.pattern && <span className="pattern"> {group.pattern.words}</span>}
                  {saidText(first, threads.get(first.id) ?? null) && (
                    <b> {saidText(first, threads.get(first.id) ?? null)}</b>
                  )}
                </td>
                <td>
                  <Made
                    members={members}
                    onTakeIn={() => void change({ change: "take-in", features: group.ids })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </>
  );
}

function ordered(
  groups: FeatureGroupView[],
  order: Order,
  byId: Map<string, FeatureView>,
): FeatureGroupView[] {
  const first = (group: FeatureGroupView) => byId.get(group.ids[0] ?? "");
  if (order === "size") return groups.toSorted((a, b) => (first(b)?.volume ?? 0) - (first(a)?.volume ?? 0));
  if (order === "setup") {
    const setup = (group: FeatureGroupView) => first(group)?.setups[0] ?? "~";
    return groups.toSorted((a, b) => setup(a).localeCompare(setup(b)));
  }
  return groups;
}

/** Thread, tolerance and finish, as a drawing would put them behind the size. */
function saidText(feature: FeatureView, thread: string | null): string {
  const own = feature.said.thread === "plain" ? null : feature.said.thread || thread;
  const { tolerance, finish } = feature.said;
  return [own, tolerance, finish === null ? null : `Ra ${finish}`].filter(Boolean).join(" ");
}

function Made({ members, onTakeIn }: { members: FeatureView[]; onTakeIn: () => void }) {
  const out = members.find((f) => f.left_out)?.left_out;
  if (out)
    return (
      <>
        {out}{" "}
        <button type="button" className="act quiet" onClick={onTakeIn}>
          make it here
        </button>
      </>
    );
  if (members.every((f) => !f.needs_machining)) return <span className="soft">as bought</span>;
  if (members.some((f) => f.needs_machining && f.operations.length === 0))
    return <span className="debit">nowhere</span>;
  return <>{[...new Set(members.flatMap((f) => f.setups))].join(", ")}</>;
}
