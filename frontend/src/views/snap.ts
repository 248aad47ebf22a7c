/** Where what is dragged in a drawing falls. */
const SNAP = 2; // mm within which a dragged piece falls into line with another
/** A dragged piece's place along one axis: in line with another one that is near, else on a whole millimetre. */
export function snapped(value: number, others: number[]): number {
  const near = others.reduce<number | null>(
    (best, one) =>
      Math.abs(one - value) <= SNAP && (best === null || Math.abs(one - value) < Math.abs(best - value))
        ? one
        : best,
    null,
  );
  return near ?? Math.round(value);
}
