/** What was noted on this device and is not with the server yet. It stays here until the server has said that it has it. */
import { useCallback, useEffect, useState } from "react";
import { Refused } from "../../api/client";
import { floor, type FloorEvent } from "../../api/floor";
import type { Schemas } from "../../api/types";

const AGAIN = 3000; // ms until it is tried again

const key = (plan: number, setup: string) => `lean-ledger-floor-${plan}-${setup}`;

function kept(plan: number, setup: string): FloorEvent[] {
  try {
    return JSON.parse(localStorage.getItem(key(plan, setup)) ?? "[]") as FloorEvent[];
  } catch {
    return [];
  }
}

/** No other has it. A phone reaches the server without encryption, where browsers make no UUIDs. */
const token = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (one) => one.toString(16).padStart(2, "0")).join("");

const MOST_TOGETHER = 20;
const MOST_LETTERS = 1_500_000; // of pictures: the server takes 4 MB at once

/** As many as go in one message, the first at least. */
function together(events: FloorEvent[]): FloorEvent[] {
  let letters = 0;
  const upTo = events.findIndex((one, k) => {
    letters += one.picture?.length ?? 0;
    return k > 0 && (k === MOST_TOGETHER || letters > MOST_LETTERS);
  });
  return upTo < 0 ? events : events.slice(0, upTo);
}

export type Noted = Partial<FloorEvent> & { kind: FloorEvent["kind"] };

/** Events that wait, and a way to add one; `onTaken` gets what the server knows after it took some. */
export function useOutbox(plan: number, setup: string, onTaken: (view: Schemas["FloorView"]) => void) {
  const [waiting, setWaiting] = useState<FloorEvent[]>(() => kept(plan, setup));
  const [offline, setOffline] = useState(false);
  const [refused, setRefused] = useState<string[]>([]);

  /** Takes the list as another tab of this device left it. */
  const change = useCallback(
    (to: (now: FloorEvent[]) => FloorEvent[]) => {
      const next = to(kept(plan, setup));
      try {
        localStorage.setItem(key(plan, setup), JSON.stringify(next));
      } catch {
        setRefused((all) => [...all, "This device has no room left to keep that; send what waits first."]);
        return;
      }
      setWaiting(next);
    },
    [plan, setup],
  );

  const flush = useCallback(async () => {
    const batch = together(kept(plan, setup));
    if (batch.length === 0) return;
    try {
      const answer = await floor.send(plan, setup, batch);
      const sent = new Set(batch.map((one) => one.token));
      change((now) => now.filter((one) => !sent.has(one.token)));
      setOffline(false);
      if (answer.refused.length > 0) setRefused((all) => [...all, ...answer.refused.map((one) => one.why)]);
      onTaken(answer.floor);
    } catch (error) {
      if (error instanceof Refused && error.code === "offline") setOffline(true);
      else setRefused([(error as Error).message]);
    }
  }, [plan, setup, change, onTaken]);

  // one at a time: what is asked for meanwhile comes with the next
  useEffect(() => {
    if (waiting.length === 0) return;
    let ended = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const turn = async () => {
      await flush();
      if (!ended) timer = setTimeout(() => void turn(), AGAIN);
    };
    void turn();
    const now = () => void flush();
    window.addEventListener("online", now);
    return () => {
      ended = true;
      clearTimeout(timer);
      window.removeEventListener("online", now);
    };
  }, [waiting, flush]);

  const note = (event: Noted) =>
    change((now) => [
      ...now,
      {
        step: "", seconds: 0, count: 0, reason: "", text: "", of: "", picture: "",
        ...event, token: token(), at: new Date().toISOString(),
      },
    ]); // prettier-ignore
  return { waiting, offline, refused, note, forget: () => setRefused([]) };
}
