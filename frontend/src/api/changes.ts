/** Changes of a plan as the schema has them, by what they are about. */
import type { Change } from "./client";

export type ChangeOf<K extends Change["change"]> = Extract<Change, { change: K }>;

type Without<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** A change of one setup, which is named beside it. */
export type SetupChange = Without<Extract<Change, { setup: string }>, "setup">;

/** A choice of a list as one of its values; undefined for anything else, as for an empty choice. */
export function among<T extends string | number>(list: readonly T[], chosen: string): T | undefined {
  return list.find((one) => String(one) === chosen);
}
