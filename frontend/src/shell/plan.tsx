/** The open plan and every way to change it, for all chapters. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { api, Refused, type Change, type PlanView, type Stale } from "../api/client";
import { BrokenPlan } from "./BrokenPlan";

export type Notice = { words: string; tone: "refused" | "told" };
type Write = (edition: number) => Promise<PlanView>;
export type Conflict = { stale: Stale; call: Write };

/** What can be done to the plan: the same functions as long as it is open. */
type Actions = {
  /** The plan as this page knows it now. */
  current: () => PlanView;
  change: (change: Change) => Promise<boolean>;
  /** Brings in the model of near-net stock. */
  bringStock: (file: File) => Promise<boolean>;
  /** Times a setup, or one operation of it, by a program from elsewhere. */
  bringProgram: (setup: string, operation: string, file: File) => Promise<boolean>;
  /** Engraves the lines of a drawing on a flat side. */
  bringEngraving: (face: string, file: File) => Promise<boolean>;
  /** Divides, holds and makes the part by the rules again, on a machine or on a lathe and a mill. */
  beginAgain: (machines: string[]) => Promise<boolean>;
  undo: () => void;
  redo: () => void;
  goTo: (seq: number) => void;
};

type Desk = Actions & {
  plan: PlanView;
  notice: Notice | null;
  dismiss: () => void;
  conflict: Conflict | null;
  /** Make the change of the conflict on top of what stands now. */
  again: () => void;
  leaveConflict: () => void;
  busy: boolean;
};

const Context = createContext<Desk | null>(null);

export function useDesk(): Desk {
  const desk = useContext(Context);
  if (!desk) throw new Error("outside of a plan");
  return desk;
}

const ActionsContext = createContext<Actions | null>(null);

/** For what shows nothing of the plan by itself: it is not drawn again with each change. */
export function useActions(): Actions {
  const actions = useContext(ActionsContext);
  if (!actions) throw new Error("outside of a plan");
  return actions;
}

export const planKey = (id: number) => ["plan", id] as const;

/** Runs writes one after the other, each on the edition that the one before left; knows the newest edition seen. */
class Writer {
  private tail: Promise<unknown> = Promise.resolve();
  private seen: number | null = null;

  run(task: () => Promise<boolean>): Promise<boolean> {
    const done = this.tail.then(task);
    this.tail = done;
    return done;
  }

  /** Once every write begun so far is answered. */
  idle(): Promise<unknown> {
    return this.tail;
  }

  /** Notes an edition; true where it is news that this page did not make itself. */
  see(edition: number): boolean {
    const news = this.seen !== null && edition > this.seen;
    this.seen = Math.max(edition, this.seen ?? 0);
    return news;
  }
}

const QUIET = 500; // ms without a change before the stock is followed

export const stockKey = (plan: PlanView) => ["stock", plan.plan_id, plan.edition] as const;

/** Has the stock followed through the operations once a change has settled: its findings then join the others. */
function useFollowedStock(plan: PlanView | undefined, looked: number) {
  const queries = useQueryClient();
  const open = plan !== undefined && !plan.stock_followed;
  const edition = plan?.edition;
  const id = plan?.plan_id;
  useEffect(() => {
    if (!open || id === undefined || edition === undefined) return;
    const wait = setTimeout(() => {
      void queries
        .fetchQuery({ queryKey: ["stock", id, edition], queryFn: ({ signal }) => api.stock(id, signal) })
        .then(() => queries.invalidateQueries({ queryKey: planKey(id) }))
        .catch(() => undefined); // asked again with the next look at the plan
    }, QUIET);
    return () => {
      clearTimeout(wait);
      // of another edition, or done: nobody waits for it any more
      void queries.cancelQueries({ queryKey: ["stock", id, edition] });
    };
  }, [open, id, edition, looked, queries]);
}

export function PlanDesk({ id, children, loading }: { id: number; children: ReactNode; loading: ReactNode }) {
  const queries = useQueryClient();
  const [writer] = useState(() => new Writer());
  const [notice, setNotice] = useState<Notice | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [waiting, setWaiting] = useState(0);
  const query = useQuery({
    queryKey: planKey(id),
    queryFn: async () => {
      const fresh = await api.plan(id);
      // read while a change was on its way: what the change answered is newer, and is no news
      await writer.idle();
      const known = queries.getQueryData<PlanView>(planKey(id));
      if (known && known.edition > fresh.edition) return known;
      if (writer.see(fresh.edition)) {
        setNotice({
          words: `Changed elsewhere. Now at “${fresh.now.words}”, ${fresh.now.author}.`,
          tone: "told",
        });
        void queries.invalidateQueries({ queryKey: ["drawing", id] });
      }
      return fresh;
    },
    refetchInterval: 8000,
  });

  const take = useCallback(
    (plan: PlanView) => {
      writer.see(plan.edition);
      queries.setQueryData(planKey(id), plan);
      void queries.invalidateQueries({ queryKey: ["drawing", id] });
    },
    [id, queries, writer],
  );

  const write = useCallback(
    (call: Write): Promise<boolean> => {
      setWaiting((n) => n + 1); // at once, so that whoever looks sees that something is on its way
      return writer.run(async () => {
        const current = queries.getQueryData<PlanView>(planKey(id));
        try {
          if (!current) return false;
          await queries.cancelQueries({ queryKey: planKey(id) });
          take(await call(current.edition));
          setNotice(null);
          return true;
        } catch (error) {
          if (error instanceof Refused && error.stale) {
            take(error.stale.plan);
            setConflict({ stale: error.stale, call });
          } else {
            setNotice({ words: error instanceof Error ? error.message : String(error), tone: "refused" });
          }
          return false;
        } finally {
          setWaiting((n) => n - 1);
        }
      });
    },
    [id, queries, take, writer],
  );

  const plan = query.data;
  useFollowedStock(plan, query.dataUpdatedAt);
  const actions = useMemo<Actions>(
    () => ({
      current: () => {
        const known = queries.getQueryData<PlanView>(planKey(id));
        if (!known) throw new Error("outside of a plan");
        return known;
      },
      change: (change) => write((edition) => api.change(id, edition, change)),
      bringStock: (file) => write((edition) => api.stockModel(id, edition, file)),
      bringProgram: (setup, operation, file) =>
        write((edition) => api.attachProgram(id, edition, setup, operation, file)),
      bringEngraving: (face, file) => write((edition) => api.engraving(id, edition, face, file)),
      beginAgain: (machines) => write((edition) => api.beginAgain(id, edition, machines)),
      undo: () => void write((edition) => api.step(id, edition, "undo")),
      redo: () => void write((edition) => api.step(id, edition, "redo")),
      goTo: (seq) => void write((edition) => api.goTo(id, edition, seq)),
    }),
    [id, queries, write],
  );
  const desk = useMemo<Desk | null>(
    () =>
      plan
        ? {
            ...actions,
            plan,
            notice,
            dismiss: () => setNotice(null),
            conflict,
            again: () => {
              setConflict(null);
              if (conflict) void write(conflict.call);
            },
            leaveConflict: () => setConflict(null),
            busy: waiting > 0,
          }
        : null,
    [plan, write, actions, notice, conflict, waiting],
  );
  if (query.error && !plan) return <BrokenPlan id={id} error={query.error} />;
  if (!desk) return <>{loading}</>;
  return (
    <ActionsContext.Provider value={actions}>
      <Context.Provider value={desk}>{children}</Context.Provider>
    </ActionsContext.Provider>
  );
}
