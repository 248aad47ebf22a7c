/** A piece shifted by hand, as a change of its load. */
import type { ChangeOf } from "../../api/changes";
import type { PieceView } from "../../api/client";

const GRAIN = 1000; // of a mm

/** By so much more along one axis; null for where the rule has it. */
export function shifted(
  load: string,
  piece: PieceView,
  axis: 0 | 1,
  by: number | null,
): ChangeOf<"set-arrangement"> {
  const to: [number, number] = [...piece.moved];
  to[axis] = by === null ? 0 : Math.round((piece.moved[axis] + by) * GRAIN) / GRAIN;
  return movedTo(load, piece, to);
}

export type Turn = PieceView["turn"];

/** Degrees, counter-clockwise as seen from above. */
export const TURNS: readonly Turn[] = [0, 90, 180, 270];

/** So many quarters on from a turn. */
export function turnedOn(turn: Turn, quarters: number): Turn {
  return TURNS[(TURNS.indexOf(turn) + quarters) % TURNS.length] ?? 0;
}

/** Turned with what holds it, to so many degrees from how it lies by the rule. */
export function turnedTo(load: string, piece: PieceView, to: Turn): ChangeOf<"set-arrangement"> {
  return { change: "set-arrangement", load, turned: [[piece.id, to]] };
}

/** To so far from where the rule has it, along X and Y. */
export function movedTo(load: string, piece: PieceView, to: [number, number]): ChangeOf<"set-arrangement"> {
  return { change: "set-arrangement", load, moved: [[piece.id, to[0], to[1]]] };
}
