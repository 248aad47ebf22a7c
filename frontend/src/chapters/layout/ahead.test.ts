import { describe, expect, it } from "vitest";
import type { PieceView } from "../../api/client";
import { Ahead } from "./ahead";

const piece = { id: "2", setup: "S1", moved: [0, 0], turn: 0 } as unknown as PieceView;

/** A change that is answered when it is told to be. */
function later() {
  let answer: (taken: boolean) => void = () => undefined;
  const promise = new Promise<boolean>((done) => (answer = done));
  return { promise, answer };
}

describe("keys that come faster than answers", () => {
  it("count on from where the piece was told to go", async () => {
    const ahead = new Ahead();
    const [first, second] = [later(), later()];
    const one = ahead.tell(piece, { moved: [1, 0] }, first.promise);
    expect(ahead.of(piece)).toMatchObject({ moved: [1, 0], turn: 0 });
    const two = ahead.tell(piece, { turn: 90 }, second.promise);
    expect(ahead.of(piece)).toMatchObject({ moved: [1, 0], turn: 90 });
    first.answer(true);
    await one;
    ahead.shown(); // the first one's answer: the second is on its way still
    expect(ahead.of(piece)).toMatchObject({ moved: [1, 0], turn: 90 });
    second.answer(true);
    await two;
    ahead.shown();
    expect(ahead.of(piece)).toBe(piece);
  });

  it("count from what stands once one was refused", async () => {
    const ahead = new Ahead();
    const refused = later();
    const told = ahead.tell(piece, { turn: 90 }, refused.promise);
    refused.answer(false);
    await told;
    expect(ahead.of(piece)).toBe(piece);
  });
});
