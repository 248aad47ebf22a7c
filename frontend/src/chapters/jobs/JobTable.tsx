/** The jobs of a page, under heads that sort them. */
import { Form, Table } from "react-bootstrap";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type JobEdit, type JobRow, type JobsQuery } from "../../api/client";
import { clock, moneyText } from "../../shell/numbers";
import { NOT_FOLLOWED } from "../../shell/Strip";
import { Hint } from "../../views/Hint";

export type SortBy = NonNullable<JobsQuery["sort"]>;
export type Sorting = { by: SortBy; down: boolean };

const HEADS: readonly (readonly [string, SortBy | null, boolean])[] = [
  ["Part", "number", false],
  ["Customer", "customer", false],
  ["Material", "material", false],
  ["Quantity", null, true],
  ["Due", "due", false],
  ["State", "status", false],
  ["Cycle, min:s", "cycle", true],
  ["Price each", "each", true],
  ["Findings", "findings", false],
];

type Props = { jobs: JobRow[]; statuses: string[]; sorting: Sorting; onSort: (by: SortBy) => void };

export function JobTable({ jobs, statuses, sorting, onSort }: Props) {
  return (
    <Table bsPrefix="ledger-table" className="jobs-table">
      <thead>
        <tr>
          <th>
            <span className="visually-hidden">Drawing</span>
          </th>
          {HEADS.map(([words, by, right]) => (
            <th
              key={words}
              className={right ? "n" : undefined}
              aria-sort={
                by !== null && by === sorting.by ? (sorting.down ? "descending" : "ascending") : undefined
              }
            >
              {by === null ? (
                words
              ) : (
                <button type="button" onClick={() => onSort(by)}>
                  {words}
                  <i aria-hidden="true">{by === sorting.by ? (sorting.down ? " ↓" : " ↑") : ""}</i>
                </button>
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {jobs.map((row) => (
          <Row key={row.plan_id} row={row} statuses={statuses} />
        ))}
      </tbody>
    </Table>
  );
}

function Row({ row, statuses }: { row: JobRow; statuses: string[] }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [refused, setRefused] = useState("");
  const plan = `/plans/${row.plan_id}/part`;
  async function set(values: JobEdit) {
    try {
      await api.editJob(row.job.id, values);
      setRefused("");
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error));
    }
    await queries.invalidateQueries({ queryKey: ["jobs"] });
  }
  return (
    <tr onDoubleClick={() => void navigate(plan)}>
      <td className="thumb">
        <Link to={plan} tabIndex={-1} aria-hidden="true">
          {row.picture && <img src={row.picture} alt="" loading="lazy" width={104} height={68} />}
        </Link>
      </td>
      <td>
        <Link className="partlink" to={plan}>
          <b>{row.job.number}</b> {row.job.name}
        </Link>
        <small>
          {row.job.revision && `revision ${row.job.revision}`}
          {row.others.length > 0 && ` · ${row.plan_name}`}
        </small>
        {row.others.map((other) => (
          <small key={other.plan_id} className="other-plan">
            <Link to={`/plans/${other.plan_id}/part`}>{other.name}</Link>
            {other.each !== null && ` ${moneyText(other.each)} each`}
            {other.errors > 0 && <span className="debit"> {other.errors} to solve</span>}
          </small>
        ))}
        {refused && <small className="debit">{refused}</small>}
      </td>
      <td>{row.job.customer || <span className="soft">none named</span>}</td>
      <td>{row.material}</td>
      <td className="n">
        {row.quantities.join(", ")}
        {row.job.ordered !== null && row.job.status !== "quoting" && <small>{row.job.ordered} ordered</small>}
      </td>
      <td>
        <Form.Control
          bsPrefix="entry"
          type="date"
          aria-label={`Due date of ${row.job.number}`}
          value={row.job.due ?? ""}
          onChange={(event) => void set({ due: event.target.value || null })}
        />
      </td>
      <td>
        <Form.Select
          bsPrefix="choice"
          aria-label={`State of ${row.job.number}`}
          value={row.job.status}
          onChange={(event) => void set({ status: event.target.value })}
        >
          {statuses.map((status) => (
            <option key={status}>{status}</option>
          ))}
        </Form.Select>
      </td>
      <td className="n">{row.cycle === null ? "–" : clock(row.cycle)}</td>
      <td className="n">
        {row.each === null ? "–" : moneyText(row.each)}
        {row.each !== null && <small>at {row.quantities[0]}</small>}
        {row.each !== null && !row.followed && <small>{NOT_FOLLOWED}</small>}
      </td>
      <td>
        <Findings row={row} />
      </td>
    </tr>
  );
}

function Findings({ row }: { row: JobRow }) {
  if (row.state === "broken")
    return (
      <span className="debit">
        cannot be computed
        <small>{row.trouble}</small>
      </span>
    );
  if (row.state === "waiting") return <span className="soft">being computed …</span>;
  return (
    <>
      {row.errors > 0 ? (
        <span className="debit">{row.errors} to solve</span>
      ) : row.warnings > 0 ? (
        <span className="caution">{row.warnings} to look at</span>
      ) : (
        "none"
      )}
      {row.state === "older" && (
        <Hint words="The shop's tools or rules changed since; it is being computed again">
          <small>from before</small>
        </Hint>
      )}
    </>
  );
}
