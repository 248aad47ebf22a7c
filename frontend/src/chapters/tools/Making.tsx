/** How features are made: the shop's rules in their order, read, changed and moved. */
import { Form, Table } from "react-bootstrap";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type ChainsView } from "../../api/client";

type Row = Record<string, unknown>;

const YES_NO = [
  { value: "", words: "either" },
  { value: "true", words: "yes" },
  { value: "false", words: "no" },
];
export function Making() {
  const queries = useQueryClient();
  const chains = useQuery({ queryKey: ["chains"], queryFn: api.chains });
  const [told, setTold] = useState("");
  const [open, setOpen] = useState<number | null>(null);
  if (!chains.data) return <p className="empty">{chains.error?.message ?? "Looking up the rules …"}</p>;
  const view = chains.data;
  const rows = view.rules.map((rule) => rule.row);

  /** Every plan is computed by the rules that come back. */
  async function make(what: () => Promise<unknown>) {
    try {
      await what();
      setTold("");
      setOpen(null);
    } catch (error) {
      setTold((error as Error).message);
    }
    await queries.invalidateQueries();
  }
  const save = (next: Row[]) => make(() => api.changeChains(next));
  const move = (from: number, to: number) => {
    const next = [...rows];
    next.splice(to, 0, ...next.splice(from, 1));
    void save(next);
  };
  return (
    <div className="making">
      <p className="soft">
        The first rule whose conditions hold, and whose tools are on the shelf, makes a feature. On a plan’s
        Operations page one feature can be made otherwise.{" "}
        <a className="act quiet" href={api.shelfFile("chains.json")}>
          chains.json
        </a>{" "}
        <label className="act quiet file-button">
          Bring in chains.json
          <input
            type="file"
            accept=".json"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void make(() => api.bringChains(file));
              event.target.value = "";
            }}
          />
        </label>{" "}
        {view.own && (
          <button
            type="button"
            className="act quiet"
            onClick={() => void make(() => api.dropOwn("chains", "rules"))}
          >
            Back to the rules that ship
          </button>
        )}
      </p>
      {told && (
        <p className="finding" role="alert">
          {told}
        </p>
      )}
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th />
            <th>Rule</th>
            <th>makes</th>
            <th>where it is</th>
            <th>by these steps</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {view.rules.map((rule, i) => (
            <tr key={String(rule.row.id)} className={i === open ? "sel" : undefined}>
              <td className="n">{i + 1}</td>
              <td>{String(rule.row.name)}</td>
              <td>{String(rule.row.of)}</td>
              <td>{rule.conditions.join(", ") || <span className="soft">any</span>}</td>
              <td>{(rule.row.steps as string[]).join(", ")}</td>
              <td className="rule-actions">
                <button
                  type="button"
                  className="act quiet"
                  disabled={i === 0}
                  aria-label={`${rule.row.name} up`}
                  onClick={() => move(i, i - 1)}
                >
                  ↑
                </button>{" "}
                <button
                  type="button"
                  className="act quiet"
                  disabled={i === rows.length - 1}
                  aria-label={`${rule.row.name} down`}
                  onClick={() => move(i, i + 1)}
                >
                  ↓
                </button>{" "}
                <button
                  type="button"
                  className="act quiet"
                  aria-label={`Change ${rule.row.name}`}
                  onClick={() => setOpen(i === open ? null : i)}
                >
                  Change
                </button>{" "}
                <button
                  type="button"
                  className="act quiet"
                  aria-label={`Copy ${rule.row.name}`}
                  onClick={() => void save(copied(rows, i))}
                >
                  Copy
                </button>{" "}
                <button
                  type="button"
                  className="act quiet"
                  aria-label={`Take out ${rule.row.name}`}
                  onClick={() => void save(rows.filter((_, k) => k !== i))}
                >
                  Take out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {open !== null && rows[open] && (
        <RuleForm
          key={`${open} ${JSON.stringify(rows[open])}`}
          row={rows[open]}
          view={view}
          onSave={(row) => void save(rows.map((old, k) => (k === open ? row : old)))}
        />
      )}
    </div>
  );
}

/** A copy right after its rule, under an id that is free. */
function copied(rows: Row[], i: number): Row[] {
  const taken = new Set(rows.map((row) => row.id));
  const row = rows[i] ?? {};
  let n = 2;
  while (taken.has(`${row.id}-${n}`)) n += 1;
  return rows.toSpliced(i + 1, 0, { ...row, id: `${row.id}-${n}`, name: `${row.name} (${n})` });
}

function RuleForm(props: { row: Row; view: ChainsView; onSave: (row: Row) => void }) {
  const { row, view, onSave } = props;
  const [draft, setDraft] = useState<Row>(row);
  const of = String(draft.of);
  const set = (name: string, value: unknown) => {
    const rest = Object.fromEntries(Object.entries(draft).filter(([field]) => field !== name));
    setDraft(value === undefined ? rest : { ...draft, [name]: value });
  };
  const steps = (draft.steps as string[]) ?? [];
  const materials = (draft.materials as string[]) ?? [];
  const toggled = (list: string[], one: string, order: string[]) =>
    order.filter((name) => (name === one ? !list.includes(one) : list.includes(name)));
  const numbers = Object.entries(view.numbers[of] ?? {});
  return (
    <form
      className="rule-form"
      aria-label={`Rule ${String(row.name)}`}
      onSubmit={(event) => {
        event.preventDefault();
        onSave(draft);
      }}
    >
      <label>
        Name{" "}
        <Form.Control
          bsPrefix="entry"
          value={String(draft.name)}
          onChange={(event) => set("name", event.target.value)}
        />
      </label>
      <fieldset>
        <legend>Steps, in their order</legend>
        {(view.steps[of] ?? []).map((step) => (
          <label key={step}>
            <Form.Check.Input
              bsPrefix="tick"
              type="checkbox"
              checked={steps.includes(step)}
              onChange={() => set("steps", toggled(steps, step, view.steps[of] ?? []))}
            />{" "}
            {step}
          </label>
        ))}
      </fieldset>
      <fieldset>
        <legend>Where the {of} is</legend>
        {(view.facts[of] ?? []).map((name) => (
          <label key={name}>
            {name}{" "}
            <Form.Select
              bsPrefix="choice"
              value={draft[name] === undefined ? "" : String(draft[name])}
              onChange={(event) =>
                set(name, event.target.value === "" ? undefined : event.target.value === "true")
              }
            >
              {YES_NO.map(({ value, words }) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </Form.Select>
          </label>
        ))}
        {numbers.map(([name, words]) => (
          <label key={name}>
            {words.replace("{}", "…")}{" "}
            <Form.Control
              bsPrefix="entry"
              className="short"
              inputMode="decimal"
              aria-label={words.replace("{}", "…")}
              value={draft[name] === undefined ? "" : String(draft[name])}
              onChange={(event) => set(name, numeric(event.target.value))}
            />
          </label>
        ))}
      </fieldset>
      <fieldset>
        <legend>In these materials; none ticked: in all</legend>
        {Object.entries(view.materials).map(([id, name]) => (
          <label key={id}>
            <Form.Check.Input
              bsPrefix="tick"
              type="checkbox"
              checked={materials.includes(id)}
              onChange={() => {
                const next = toggled(materials, id, Object.keys(view.materials));
                set("materials", next.length ? next : undefined);
              }}
            />{" "}
            {name}
          </label>
        ))}
      </fieldset>
      <button type="submit" className="act main">
        Keep the rule
      </button>
    </form>
  );
}

/** A number, what is not one yet as it was typed, nothing where it is empty. */
function numeric(text: string): number | string | undefined {
  if (text.trim() === "") return undefined;
  const value = Number(text.replace(",", "."));
  return Number.isFinite(value) && !/[.,]$/.test(text) ? value : text;
}
