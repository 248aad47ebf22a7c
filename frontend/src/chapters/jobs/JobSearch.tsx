/** Which jobs are shown: words, state, customer, due until; and the pages of what was found. */
import { Form } from "react-bootstrap";
import type { JobList } from "../../api/client";

export type Wanted = { search: string; status: string; customer: string; due: string };

type Props = {
  wanted: Wanted;
  list: JobList | undefined;
  statuses: string[];
  onChange: (changed: Partial<Wanted>) => void;
  onClear: () => void;
};

export function JobSearch({ wanted, list, statuses, onChange, onClear }: Props) {
  const narrowed = Object.values(wanted).some((value) => value !== "");
  return (
    <form className="job-search" role="search" onSubmit={(event) => event.preventDefault()}>
      <label>
        Find{" "}
        <Form.Control
          bsPrefix="entry"
          type="search"
          value={wanted.search}
          maxLength={200}
          placeholder="number, name, customer, material"
          onChange={(event) => onChange({ search: event.target.value })}
        />
      </label>
      <label>
        State{" "}
        <Form.Select
          bsPrefix="choice"
          aria-label="State"
          value={wanted.status}
          onChange={(event) => onChange({ status: event.target.value })}
        >
          <option value="">all</option>
          {statuses.map((status) => (
            <option key={status}>{status}</option>
          ))}
        </Form.Select>
      </label>
      <label>
        Customer{" "}
        <Form.Select
          bsPrefix="choice"
          aria-label="Customer"
          value={wanted.customer}
          onChange={(event) => onChange({ customer: event.target.value })}
        >
          <option value="">all</option>
          {(list?.customers ?? []).map((customer) => (
            <option key={customer}>{customer}</option>
          ))}
        </Form.Select>
      </label>
      <label>
        Due until{" "}
        <Form.Control
          bsPrefix="entry"
          type="date"
          aria-label="Due until"
          value={wanted.due}
          onChange={(event) => onChange({ due: event.target.value })}
        />
      </label>
      {narrowed && (
        <button type="button" className="act quiet" onClick={onClear}>
          Show all {list?.all}
        </button>
      )}
    </form>
  );
}

export function JobPages({ list, onPage }: { list: JobList; onPage: (page: number) => void }) {
  if (list.pages < 2) return null;
  const size = Math.ceil(list.total / list.pages);
  return (
    <nav className="job-pages" aria-label="Pages">
      <button type="button" className="act" disabled={list.page <= 1} onClick={() => onPage(list.page - 1)}>
        Back
      </button>
      <span>
        page {list.page} of {list.pages}, {list.total} jobs
      </span>
      <button
        type="button"
        className="act"
        disabled={list.page >= list.pages || size === 0}
        onClick={() => onPage(list.page + 1)}
      >
        On
      </button>
    </nav>
  );
}
