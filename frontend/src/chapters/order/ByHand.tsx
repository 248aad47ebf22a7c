/** What was decided by hand for the order of a load, and what it takes to have it back. */
import type { CycleView } from "../../api/client";
import { useDesk } from "../../shell/plan";

export function ByHand({ cycle }: { cycle: CycleView }) {
  const { change } = useDesk();
  const { load, before, overruled, out } = cycle;
  if (before.length + overruled.length + out.length === 0) return null;
  return (
    <>
      <h2>
        By hand <span>what the rules do not know</span>
      </h2>
      {before.map((one) => (
        <p key={one.words}>
          {one.words}
          {one.note && `: ${one.note}`}{" "}
          <button
            type="button"
            className="act quiet"
            aria-label={`Take away: ${one.words}`}
            onClick={() => void change({ change: "not-before", load, first: one.first, then: one.then })}
          >
            Take away
          </button>
        </p>
      ))}
      {overruled.map((one) => (
        <p key={one.words} className="caution">
          {one.words}: {one.note}{" "}
          <button
            type="button"
            className="act quiet"
            aria-label={`Let it hold again: ${one.words}`}
            onClick={() =>
              void change({ change: "overrule", load, first: one.first, then: one.then, note: "" })
            }
          >
            Let it hold again
          </button>
        </p>
      ))}
      {out.map((one) => (
        <p key={one.operation} className="caution">
          {one.name} is taken out for now{" "}
          <button
            type="button"
            className="act quiet"
            aria-label={`Put back ${one.name}`}
            onClick={() => void change({ change: "take-out", load, operation: one.operation, out: false })}
          >
            Put it back
          </button>
        </p>
      ))}
    </>
  );
}
