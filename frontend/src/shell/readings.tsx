/** Files being read in the background: they go on while the planner is elsewhere. */
import { useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { api, type ReadingView } from "../api/client";
import { lengthText, volumeText } from "./numbers";

const EVERY = 350; // ms between two looks at a reading

type Readings = {
  all: ReadingView[];
  start: (what: "job" | "revision", form: FormData) => Promise<ReadingView>;
  cancel: (id: string) => void;
  choose: (id: string, solid: number) => void;
  meanSize: (id: string) => void;
  forget: (id: string) => void;
};

const Context = createContext<Readings | null>(null);

export const isUnderWay = (one: ReadingView) => one.state === "waiting" || one.state === "reading";

export function ReadingsProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [all, setAll] = useState<ReadingView[]>([]);
  const put = useCallback(
    (one: ReadingView) => setAll((before) => before.map((other) => (other.id === one.id ? one : other))),
    [],
  );
  const waiting = all
    .filter(isUnderWay)
    .map((one) => one.id)
    .join(" ");

  useEffect(() => {
    if (!waiting) return;
    const timer = setInterval(() => {
      for (const id of waiting.split(" "))
        void api.reading(id).then(
          (one) => {
            put(one);
            if (one.state === "done") {
              void queries.invalidateQueries({ queryKey: ["jobs"] });
              void queries.invalidateQueries({ queryKey: ["plan"] });
            }
          },
          (error: unknown) =>
            setAll((before) =>
              before.map((one) =>
                one.id === id
                  ? { ...one, state: "failed", error: error instanceof Error ? error.message : String(error) }
                  : one,
              ),
            ),
        );
    }, EVERY);
    return () => clearInterval(timer);
  }, [waiting, put, queries]);

  const value = useMemo<Readings>(
    () => ({
      all,
      start: async (what, form) => {
        const one = await api.startReading(what, form);
        setAll((before) => [...before, one]);
        return one;
      },
      cancel: (id) => void api.cancelReading(id).then(put),
      meanSize: (id) => void api.meanSize(id).then(put),
      choose: (id, solid) => void api.chooseSolid(id, solid).then(put),
      forget: (id) => setAll((before) => before.filter((one) => one.id !== id)),
    }),
    [all, put],
  );
  return <Context.Provider value={value}>{children}</Context.Provider>;
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
        <table className="ledger-table">
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
        </table>
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
