/** Files being read in the background: they go on while the planner is elsewhere. */
import { Table } from "react-bootstrap";
import { useQueries, useQueryClient, type Query } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { api, type ReadingView } from "../api/client";
import { lengthText, volumeText } from "./numbers";

const EVERY = 350; // ms between two looks at a reading

type Readings = {
  all: ReadingView[];
  start: (sent: Promise<ReadingView>) => Promise<ReadingView>;
  cancel: (id: string) => void;
  choose: (id: string, solid: number) => void;
  meanSize: (id: string) => void;
  forget: (id: string) => void;
};

const Context = createContext<Readings | null>(null);

export const isUnderWay = (one: ReadingView) => one.state === "waiting" || one.state === "reading";

export function ReadingsProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [ids, setIds] = useState<string[]>([]);
  const put = useCallback((one: ReadingView) => queries.setQueryData(key(one.id), one), [queries]);
  const all = useQueries({
    queries: ids.map((id) => ({
      queryKey: key(id),
      queryFn: () => api.reading(id),
      retry: false,
      refetchInterval: ({ state }: Query<ReadingView>) =>
        state.status !== "error" && state.data && isUnderWay(state.data) ? EVERY : false,
    })),
    combine: asTheyStand,
  });
  const done = all.filter((one) => one.state === "done").length;

  useEffect(() => {
    if (done === 0) return;
    void queries.invalidateQueries({ queryKey: ["jobs"] });
    void queries.invalidateQueries({ queryKey: ["plan"] });
  }, [done, queries]);

  const value = useMemo<Readings>(
    () => ({
      all,
      start: async (sent) => {
        const one = await sent;
        put(one);
        setIds((before) => [...before, one.id]);
        return one;
      },
      cancel: (id) => void api.cancelReading(id).then(put),
      meanSize: (id) => void api.meanSize(id).then(put),
      choose: (id, solid) => void api.chooseSolid(id, solid).then(put),
      forget: (id) => setIds((before) => before.filter((one) => one !== id)),
    }),
    [all, put],
  );
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

const key = (id: string) => ["reading", id];

/** What is known of each; where nothing more can be asked, it has failed. */
function asTheyStand(results: { data?: ReadingView; error: Error | null }[]): ReadingView[] {
  return results.flatMap(({ data, error }) => {
    if (!data) return [];
    return error ? [{ ...data, state: "failed" as const, error: error.message }] : [data];
  });
}

export function useReadings(): Readings {
  const value = useContext(Context);
  if (!value) throw new Error("no readings here");
  return value;
}

/** One reading: its stage and share, the solids to choose from, or what went wrong. */
export function ReadingProgress({ reading, done }: { reading: ReadingView; done?: ReactNode }) {
  const { cancel, choose, forget, meanSize } = useReadings();
  const percent = Math.round(reading.share * 100);
  if (reading.state === "choose")
    return (
      <div className="reading" role="group" aria-label={`Solids of ${reading.file_name}`}>
        <p>
          <b>{reading.file_name}</b> holds {reading.solids.length} solids. Which one is the part?
        </p>
        <Table bsPrefix="ledger-table">
          <thead>
            <tr>
              <th>Solid</th>
              <th>Size, mm</th>
              <th className="n">Volume, mm³</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {reading.solids.map((solid, i) => (
              <tr key={i}>
                <td>
                  {i + 1} {solid.name}
                </td>
                <td>{solid.size.map((v) => lengthText(v, "mm", 1)).join(" × ")}</td>
                <td className="n">{volumeText(solid.volume, "mm")}</td>
                <td>
                  <button type="button" className="act" onClick={() => choose(reading.id, i)}>
                    Take this one
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
        <button type="button" className="act quiet" onClick={() => cancel(reading.id)}>
          None of them
        </button>
      </div>
    );
  if (reading.state === "ask")
    return (
      <div className="reading" role="group" aria-label={`Size of ${reading.file_name}`}>
        <span>
          <b>{reading.file_name}</b> {reading.question}
        </span>
        <button type="button" className="act" onClick={() => meanSize(reading.id)}>
          It is, go on
        </button>
        <button type="button" className="act quiet" onClick={() => cancel(reading.id)}>
          No, leave it
        </button>
      </div>
    );
  if (isUnderWay(reading))
    return (
      <div className="reading">
        <span>
          <b>{reading.file_name}</b> {reading.stage}
        </span>
        <progress max={100} value={percent} aria-label={`Reading ${reading.file_name}`} />
        <span className="n">{percent} %</span>
        <button type="button" className="act quiet" onClick={() => cancel(reading.id)}>
          Stop reading
        </button>
      </div>
    );
  return (
    <div className="reading">
      <span className={reading.state === "failed" ? "debit" : undefined} role="status">
        {reading.state === "failed"
          ? reading.error
          : reading.state === "cancelled"
            ? `${reading.file_name}: reading was stopped, nothing was kept.`
            : `${reading.file_name} is read.`}
      </span>
      {reading.state === "done" && done}
      <button type="button" className="act quiet" onClick={() => forget(reading.id)}>
        Put away
      </button>
    </div>
  );
}
