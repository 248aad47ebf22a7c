/** From where a picture is looked at. */
import type { Spot } from "./ModelBody";

/** From the front of the machine, a little to the right and from above. */
export function fromTheFront({ right, above }: { right: number[]; above: number[] }): {
  direction: Spot;
  above: Spot;
} {
  const [rx = 0, ry = 0, rz = 0] = right;
  const [ux = 0, uy = 0, uz = 0] = above;
  const back: Spot = [uy * rz - uz * ry, uz * rx - ux * rz, ux * ry - uy * rx];
  const direction = [0, 1, 2].map(
    (i) => 0.55 * (right[i] ?? 0) - (back[i] ?? 0) + 0.75 * (above[i] ?? 0),
  ) as Spot;
  return { direction, above: [ux, uy, uz] };
}
