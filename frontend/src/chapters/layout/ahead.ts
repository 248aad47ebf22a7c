/** Where pieces were told to go by keys that came faster than answers: the next key counts on from there. */
import type { PieceView } from "../../api/client";

export type Stands = Pick<PieceView, "moved" | "turn">;

export class Ahead {
  private readonly told = new Map<string, Stands & { waiting: number }>();

  /** Where a piece is, or is about to be. */
  of(piece: PieceView): Stands {
    return this.told.get(piece.id) ?? piece;
  }

  /** A piece was told to stand so; `answered`: whether that was taken. */
  async tell(piece: PieceView, to: Partial<Stands>, answered: Promise<boolean>): Promise<void> {
    const { moved, turn } = this.of(piece);
    const entry = { moved, turn, ...to, waiting: (this.told.get(piece.id)?.waiting ?? 0) + 1 };
    this.told.set(piece.id, entry);
    const taken = await answered.catch(() => false);
    const last = this.told.get(piece.id);
    if (last && taken) last.waiting -= 1;
    else this.told.delete(piece.id);
  }

  /** The load is shown as it was answered: what nothing waits for any more stands in it. */
  shown(): void {
    for (const [id, entry] of this.told) if (entry.waiting === 0) this.told.delete(id);
  }
}
