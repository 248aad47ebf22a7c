/** Work that the server does beside its answers: watched until it has ended, shown, and stopped on demand. */
import type { components } from "./schema";

export type Work = components["schemas"]["WorkView"];

const SOON = 120; // ms until the first look
const LATEST = 800; // between two looks at what takes long

let known: readonly Work[] = [];
const listeners = new Set<() => void>();

function tell(next: readonly Work[]) {
  known = next;
  listeners.forEach((one) => one());
}

/** For useSyncExternalStore. */
export const works = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  all: () => known,
};

export const isOpen = (work: Work) => work.state === "waiting" || work.state === "working";

/** Resolves with the work once it has ended, or nobody waits for it any more; `look` asks the server for it. */
export async function watched(
  begun: Work,
  look: (id: string) => Promise<Work>,
  signal?: AbortSignal,
): Promise<Work> {
  let work = begun;
  let wait = SOON;
  try {
    while (isOpen(work) && !signal?.aborted) {
      await new Promise((resolve) => setTimeout(resolve, wait));
      wait = Math.min(LATEST, wait * 1.4);
      work = await look(work.id);
      tell([...known.filter((one) => one.id !== work.id), work]);
    }
    return work;
  } finally {
    tell(known.filter((one) => one.id !== begun.id));
  }
}
