/** Where pieces were told to go by keys that came faster than answers: the next key counts on from there. */
import type { PieceView } from "../../api/client";

export type Stands = Pick<PieceView, "moved" | "turn">;

/** Of several loads each has pieces of these numbers, and no other its setups. */
function named(piece: PieceView): string {
  return `${piece.setup} ${piece.id}`;
}

export class Ahead {
  private readonly told = new Map<string, Stands & { waiting: number }>();

  /** Where a piece is, or is about to be. */
  of(piece: PieceView): Stands {
    return this.told.get(named(piece)) ?? piece;
  }

  /** A piece was told to stand so; `answered`: whether that was taken. */
  async tell(piece: PieceView, to: Partial<Stands>, answered: Promise<boolean>): Promise<void> {
    const { moved, turn } = this.of(piece);
    const entry = { moved, turn, ...to, waiting: (this.told.get(named(piece))?.waiting ?? 0) + 1 };
    this.told.set(named(piece), entry);
    const taken = await answered.catch(() => false);
    const last = this.told.get(named(piece));
    if (last && taken) last.waiting -= 1;
    else this.told.delete(named(piece));
  }

  /** The load is shown as it was answered: what nothing waits for any more stands in it. */
  shown(): void {
    for (const [id, entry] of this.told) if (entry.waiting === 0) this.told.delete(id);
  }
}
