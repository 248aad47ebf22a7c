/** All jobs, and the way to a new one. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type JobRow } from "../../api/client";
import { clock, moneyText } from "../../shell/numbers";
import { ReadingProgress, useReadings } from "../../shell/readings";
import { LineDrawing } from "../../views/LineDrawing";
import { NewJob } from "./NewJob";

export function JobsPage() {
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: api.jobs });
  const library = useQuery({ queryKey: ["library"], queryFn: api.library });
  const [dropped, setDropped] = useState<File | null>(null);
  const [over, setOver] = useState(false);
  const [adding, setAdding] = useState(false);
  const { all, forget } = useReadings();
  useEffect(() => {
    document.title = "Jobs · Lean Ledger";
  }, []);

  return (
    <div
      className={over ? "jobs-page over" : "jobs-page"}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const file = event.dataTransfer.files[0];
        if (file) {
          setDropped(file);
          setAdding(true);
        }
      }}
    >
      <header className="heading">
        <span className="wordmark">
          Lean <i>Ledger</i>
        </span>
        <h1>Jobs</h1>
        <div className="tools">
          <Link className="act quiet" to="/tools">
            Tools and cutting data
          </Link>
          <button type="button" className="act" onClick={() => setAdding(true)}>
            New job
          </button>
        </div>
      </header>
      <main className="jobs-sheet">
        {jobs.error && <p className="finding">{jobs.error.message}</p>}
        {(adding || jobs.data?.length === 0) && library.data && (
          <NewJob
            library={library.data}
            dropped={dropped}
            onClose={() => setAdding(false)}
            first={jobs.data?.length === 0}
          />
        )}
        {!adding &&
          all.map((one) => (
            <ReadingProgress
              key={one.id}
              reading={one}
              done={
                one.plan_id !== null && (
                  <Link to={`/plans/${one.plan_id}/part`} onClick={() => forget(one.id)}>
                    Open its plan
                  </Link>
                )
              }
            />
          ))}
        {jobs.data && jobs.data.length > 0 && (
          <JobTable jobs={jobs.data} statuses={library.data?.statuses ?? []} />
        )}
        {jobs.isLoading && <p className="empty">Reading the jobs …</p>}
        {jobs.data && jobs.data.length > 0 && !adding && (
          <p className="soft drop-hint">Drop a STEP or DXF file anywhere on this page to quote a new part.</p>
        )}
      </main>
    </div>
  );
}

function JobTable({ jobs, statuses }: { jobs: JobRow[]; statuses: string[] }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  async function set(id: number, values: Record<string, string | null>) {
    await api.editJob(id, values);
    await queries.invalidateQueries({ queryKey: ["jobs"] });
  }
  return (
    <table className="ledger-table jobs-table">
      <thead>
        <tr>
          <th>
            <span className="visually-hidden">Drawing</span>
          </th>
          <th>Part</th>
          <th>Material</th>
          <th className="n">Quantity</th>
          <th>Due</th>
          <th>State</th>
          <th className="n">Cycle, min:s</th>
          <th className="n">Price each</th>
          <th>Findings</th>
        </tr>
      </thead>
      <tbody>
        {jobs.map((row) => (
          <tr key={row.job.id} onDoubleClick={() => void navigate(`/plans/${row.plan_id}/part`)}>
            <td className="thumb">
              <Link to={`/plans/${row.plan_id}/part`} tabIndex={-1} aria-hidden="true">
                <LineDrawing lines={row.thumb.lines as [number, number][][]} label="" />
              </Link>
            </td>
            <td>
              <Link className="partlink" to={`/plans/${row.plan_id}/part`}>
                <b>{row.job.number}</b> {row.job.name}
              </Link>
              <small>
                {row.job.customer || "no customer named"} · revision {row.job.revision}
              </small>
            </td>
            <td>{row.material}</td>
            <td className="n">{row.quantities.join(", ")}</td>
            <td>
              <input
                type="date"
                aria-label={`Due date of ${row.job.number}`}
                value={row.job.due ?? ""}
                onChange={(event) => void set(row.job.id, { due: event.target.value || null })}
              />
            </td>
            <td>
              <select
                aria-label={`State of ${row.job.number}`}
                value={row.job.status}
                onChange={(event) => void set(row.job.id, { status: event.target.value })}
              >
                {statuses.map((status) => (
                  <option key={status}>{status}</option>
                ))}
              </select>
            </td>
            <td className="n">{clock(row.cycle)}</td>
            <td className="n">
              {moneyText(row.each)}
              <small>at {row.quantities[0]}</small>
            </td>
            <td>
              {row.errors > 0 ? (
                <span className="debit">{row.errors} to solve</span>
              ) : row.warnings > 0 ? (
                <span className="caution">{row.warnings} to look at</span>
              ) : (
                "none"
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
