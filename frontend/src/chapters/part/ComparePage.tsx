/** Two revisions side by side: what became of each feature, and taking the new one into the plan. */
import { Form, Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, type CompareView, type FeaturePairView } from "../../api/client";
import { fixed, lengthText, type Unit } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { Model3D } from "../../views/Model3D";
import { LegendLine } from "./LookTools";
import { BECAME, CHOSEN, HOVERED } from "./tones";
import { measureText } from "./words";

type Row = number | null;

export function ComparePage() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const navigate = useNavigate();
  const revision = useParams().revision ?? "";
  const [row, setRow] = useState<Row>(null);
  const [over, setOver] = useState<Row>(null);
  const [all, setAll] = useState(false);
  const compared = useQuery({
    queryKey: ["compare", plan.plan_id, revision, plan.edition],
    queryFn: () => api.compare(plan.plan_id, revision),
    placeholderData: (before) => before,
  });
  const view = compared.data;
  if (!view) return <p className="empty">{compared.error ? compared.error.message : "Comparing …"}</p>;
  const counts = Object.keys(BECAME).map((key) => ({
    key,
    n: view.pairs.filter((pair) => pair.became === key).length,
  }));
  const taken = plan.job.revision === view.after;
  const byHand = view.pairs.some((pair) => pair.by_hand);
  const decided = view.pairs.filter((pair) => pair.became !== "same" && pair.decided.length > 0).length;

  return (
    <div className="one-column compare-page">
      <h1>
        Revision {view.after} beside {view.before}{" "}
        <small>
          {counts
            .filter((c) => c.n > 0)
            .map((c) => `${c.n} ${c.key}`)
            .join(" · ")}
          {decided > 0 && ` · ${decided} with decisions to look at`}
        </small>
      </h1>
      <div className="cures">
        {taken ? (
          <span>
            The plan makes revision {view.after}.{" "}
            <Link to={`/plans/${plan.plan_id}/part/revision-price`}>What it costs beside {view.before}</Link>
          </span>
        ) : (
          <button
            type="button"
            className="act main"
            onClick={() =>
              void change({ change: "take-revision", revision: view.after }).then((done) => {
                if (done) void navigate(`/plans/${plan.plan_id}/part`);
              })
            }
          >
            Take revision {view.after} into the plan
          </button>
        )}
        {byHand && (
          <button
            type="button"
            className="act quiet"
            onClick={() => void change({ change: "pair-by-rule", revision: view.after })}
          >
            Pair by geometry alone
          </button>
        )}
        <Link to={`/plans/${plan.plan_id}/part`}>Back to the part</Link>
      </div>
      <div className="compare-models">
        <Side
          view={view}
          side="before"
          plan={plan.plan_id}
          row={row}
          over={over}
          onRow={setRow}
          onOver={setOver}
        />
        <Side
          view={view}
          side="after"
          plan={plan.plan_id}
          row={row}
          over={over}
          onRow={setRow}
          onOver={setOver}
        />
      </div>
      <LegendLine legend={Object.values(BECAME).map(([tone, label]) => ({ tone, label }))} />
      <PairTable
        view={view}
        unit={unit}
        row={row}
        all={all}
        onAll={setAll}
        onRow={setRow}
        onOver={setOver}
        onPair={(old, own) => void change({ change: "pair-features", revision: view.after, old, new: own })}
      />
    </div>
  );
}

function Side(props: {
  view: CompareView;
  side: "before" | "after";
  plan: number;
  row: Row;
  over: Row;
  onRow: (row: Row) => void;
  onOver: (row: Row) => void;
}) {
  const { view, side, plan, row, over, onRow, onOver } = props;
  const letter = side === "before" ? view.before : view.after;
  const mesh = useQuery({
    queryKey: ["mesh", plan, letter],
    queryFn: () => api.mesh(plan, letter),
    staleTime: Infinity,
  });
  const features = side === "before" ? view.before_features : view.after_features;
  const faces = side === "before" ? view.before_faces : view.after_faces;
  const idOf = (pair: FeaturePairView | undefined) => (side === "before" ? pair?.old : pair?.new) ?? "";
  const rowOf = useMemo(() => {
    const map = new Map<number, number>();
    view.pairs.forEach((pair, i) => {
      for (const face of features[(side === "before" ? pair.old : pair.new) ?? ""] ?? []) map.set(face, i);
    });
    return map;
  }, [view, side, features]);
  const tones = new Map<number, string>();
  faces.forEach((became, face) => {
    if (became !== "same") tones.set(face, BECAME[became]?.[0] ?? "");
  });
  for (const [which, tone] of [
    [over, HOVERED],
    [row, CHOSEN],
  ] as const)
    if (which !== null) for (const face of features[idOf(view.pairs[which])] ?? []) tones.set(face, tone);
  return (
    <section aria-label={`Revision ${letter}`}>
      <h2>Revision {letter}</h2>
      {mesh.data ? (
        <Model3D
          mesh={mesh.data}
          tones={tones}
          label={`Revision ${letter}`}
          onPick={(face) => onRow(face === null ? null : (rowOf.get(face) ?? null))}
          onHover={(face) => onOver(face === null ? null : (rowOf.get(face) ?? null))}
        />
      ) : (
        <p className="empty">{mesh.error ? mesh.error.message : "Drawing the part …"}</p>
      )}
    </section>
  );
}

function PairTable(props: {
  view: CompareView;
  unit: Unit;
  row: Row;
  all: boolean;
  onAll: (all: boolean) => void;
  onRow: (row: Row) => void;
  onOver: (row: Row) => void;
  onPair: (old: string | null, own: string | null) => void;
}) {
  const { view, unit, row, all, onRow, onOver } = props;
  const shown = view.pairs
    .map((pair, i) => ({ pair, i }))
    .filter(({ pair, i }) => all || pair.became !== "same" || i === row || pair.by_hand);
  const loose = view.pairs.filter((pair) => pair.own !== null);
  return (
    <div className="scroll wide">
      <h2>
        What became of the features{" "}
        <label className="inline">
          <Form.Check.Input
            bsPrefix="tick"
            type="checkbox"
            checked={all}
            onChange={(event) => props.onAll(event.target.checked)}
          />{" "}
          the unchanged too
        </label>
      </h2>
      <Table bsPrefix="ledger-table" className="feature-table">
        <thead>
          <tr>
            <th>Feature</th>
            <th>Became</th>
            <th>How, {unit}</th>
            <th>Decided for it</th>
            <th>Is in {view.after}</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ pair, i }) => (
            <tr
              key={`${pair.old}-${pair.own}`}
              tabIndex={0}
              className={i === row ? "sel" : undefined}
              aria-selected={i === row}
              onClick={() => onRow(i)}
              onFocus={() => onOver(i)}
              onMouseEnter={() => onOver(i)}
              onMouseLeave={() => onOver(null)}
              onKeyDown={(event) => {
                if (event.key === "Enter" && event.target === event.currentTarget) onRow(i);
              }}
            >
              <td>
                <b>{pair.old ?? pair.new}</b> {pair.title}
              </td>
              <td>
                {pair.became}
                {pair.by_hand && ", by hand"}
              </td>
              <td>{howText(pair, unit)}</td>
              <td>{pair.decided.join("; ")}</td>
              <td>
                {pair.old !== null ? (
                  <Form.Select
                    bsPrefix="choice"
                    aria-label={`${pair.old} in revision ${view.after}`}
                    value={pair.own ?? ""}
                    onChange={(event) => props.onPair(pair.old, event.target.value || null)}
                  >
                    <option value="">gone</option>
                    {loose
                      .filter((other) => (other.own ?? "")[0] === pair.old?.[0])
                      .map((other) => (
                        <option key={other.own} value={other.own ?? ""}>
                          {other.new} {other.old === null ? "(new)" : other.old === pair.old ? "" : "(taken)"}
                        </option>
                      ))}
                  </Form.Select>
                ) : (
                  pair.new
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {shown.length === 0 && <p className="soft">Nothing changed.</p>}
    </div>
  );
}

function howText(pair: FeaturePairView, unit: Unit): string {
  const changes = pair.changes.map(
    (c) =>
      `${c.label} ${measureText({ value: c.before, unit: c.unit }, unit)} → ${measureText({ value: c.after, unit: c.unit }, unit)}`,
  );
  if (pair.moved > 0)
    changes.push(`moved by ${unit === "mm" ? fixed(pair.moved, 2) : lengthText(pair.moved, unit, 3)}`);
  return changes.join(", ");
}
