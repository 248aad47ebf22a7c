/** All jobs, in pages, and the way to a new one. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, type JobsQuery } from "../../api/client";
import { ReadingProgress, useReadings } from "../../shell/readings";
import { ShopWays } from "../../shell/ShopPage";
import { JobPages, JobSearch, type Wanted } from "./JobSearch";
import { JobTable, type SortBy, type Sorting } from "./JobTable";
import { NewJob } from "./NewJob";

const AGAIN = 3000; // ms until a list with rows that are being computed is looked at again
const SETTLED = 200; // ms without a key until words are searched

/** What is shown stands in the address: it can be kept and gone back to. */
function useWanted() {
  const [params, setParams] = useSearchParams();
  const wanted: Wanted = {
    search: params.get("find") ?? "",
    status: params.get("state") ?? "",
    customer: params.get("customer") ?? "",
    due: params.get("due") ?? "",
  };
  const sorting: Sorting = {
    by: (params.get("sort") as SortBy | null) ?? "added",
    down: (params.get("down") ?? "1") === "1",
  };
  const page = Math.max(1, Number(params.get("page") ?? 1) || 1);
  // the router knows the address as last drawn; two changes in one breath would lose the first
  const latest = useRef(params);
  useEffect(() => {
    latest.current = params;
  }, [params]);
  const put = (changed: Record<string, string>) => {
    const next = new URLSearchParams(latest.current);
    for (const [name, value] of Object.entries(changed))
      if (value) next.set(name, value);
      else next.delete(name);
    latest.current = next;
    setParams(next, { replace: true });
  };
  return { wanted, sorting, page, put };
}

function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const wait = setTimeout(() => setSettled(value), SETTLED);
    return () => clearTimeout(wait);
  }, [value]);
  return settled;
}

export function JobsPage() {
  const { wanted, sorting, page, put } = useWanted();
  const search = useSettled(wanted.search);
  const query: JobsQuery = {
    search,
    status: wanted.status,
    customer: wanted.customer,
    due_to: wanted.due || undefined,
    sort: sorting.by,
    down: sorting.down,
    page,
  };
  const jobs = useQuery({
    queryKey: ["jobs", query],
    queryFn: () => api.jobs(query),
    placeholderData: keepPreviousData,
    refetchInterval: (state) =>
      state.state.data?.jobs.some((row) => row.state === "older" || row.state === "waiting") ? AGAIN : false,
  });
  const library = useQuery({ queryKey: ["library"], queryFn: api.library });
  const [dropped, setDropped] = useState<File | null>(null);
  const [over, setOver] = useState(false);
  const [adding, setAdding] = useState(false);
  const { all, forget } = useReadings();
  const list = jobs.data;
  const statuses = library.data?.statuses ?? [];
  useEffect(() => {
    document.title = "Jobs · Lean Ledger";
  }, []);
  const clear = () => put({ find: "", state: "", customer: "", due: "", page: "" });

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
        <h1>
          Jobs{" "}
          {list && list.all > 0 && (
            <small>{list.total === list.all ? list.all : `${list.total} of ${list.all}`}</small>
          )}
        </h1>
        <div className="tools">
          <ShopWays />
          <button type="button" className="act" onClick={() => setAdding(true)}>
            New job
          </button>
        </div>
      </header>
      <main className="jobs-sheet">
        {jobs.error && <p className="finding">{jobs.error.message}</p>}
        {(adding || list?.all === 0) && library.data && (
          <NewJob
            library={library.data}
            dropped={dropped}
            onClose={() => setAdding(false)}
            first={list?.all === 0}
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
        {list && list.all > 0 && (
          <>
            <JobSearch
              wanted={wanted}
              list={list}
              statuses={statuses}
              onChange={(changed) =>
                put({
                  ...("search" in changed ? { find: changed.search ?? "" } : {}),
                  ...("status" in changed ? { state: changed.status ?? "" } : {}),
                  ...("customer" in changed ? { customer: changed.customer ?? "" } : {}),
                  ...("due" in changed ? { due: changed.due ?? "" } : {}),
                  page: "",
                })
              }
              onClear={clear}
            />
            {list.total > 0 ? (
              <JobTable
                jobs={list.jobs}
                statuses={statuses}
                sorting={sorting}
                onSort={(by) =>
                  put({ sort: by, down: by === sorting.by && !sorting.down ? "1" : "0", page: "" })
                }
              />
            ) : (
              <p className="empty">
                No job is like that.{" "}
                <button type="button" className="act" onClick={clear}>
                  Show all {list.all}
                </button>
              </p>
            )}
            <JobPages list={list} onPage={(next) => put({ page: next > 1 ? String(next) : "" })} />
          </>
        )}
        {jobs.isLoading && <p className="empty">Reading the jobs …</p>}
        {list && list.all > 0 && !adding && (
          <p className="soft drop-hint">Drop a STEP or DXF file anywhere on this page to quote a new part.</p>
        )}
      </main>
    </div>
  );
}
