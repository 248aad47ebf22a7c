/** Pieces from a bar: how many of an advance, what they take of it, drawn with all lengths. */
import type { LayoutView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

type Bar = NonNullable<LayoutView["bar"]>;

export function BarLoad({ load, bar }: { load: LayoutView; bar: Bar }) {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const take = (on_bar: number) => void change({ change: "set-arrangement", load: load.load, on_bar });
  return (
    <>
      <h2>
        From the bar{" "}
        <span>
          {load.in_turn === "spindles"
            ? "each piece goes on into the counter spindle"
            : "one behind the other, cut off from the front on"}
        </span>
      </h2>
      {load.in_turn !== "spindles" && bar.most + bar.per_advance > 2 && (
        <PerAdvance bar={bar} onTake={take} />
      )}
      <dl className="pitches">
        <div>
          <dt>
            Advance {lengthText(bar.advance, unit)} {unit} in {fixed(bar.feed, 0)} s
          </dt>
          <dd>
            {bar.per_advance} × ({lengthText(bar.length, unit)} + {lengthText(bar.back, unit)} left +{" "}
            {lengthText(bar.cut_off, unit)} blade) + {lengthText(bar.front, unit)} to face the first
          </dd>
        </div>
        <div>
          <dt>{bar.pieces} pieces of a bar</dt>
          <dd>
            of {lengthText(bar.bar, unit, 0)} {unit}, {lengthText(bar.remnant, unit, 0)} of which stay in the
            feed;{" "}
            {plan.quantities
              .map((quantity, k) => `${bar.bars[k] ?? 0} bar${bar.bars[k] === 1 ? "" : "s"} for ${quantity}`)
              .join(", ")}
          </dd>
        </div>
        <div>
          <dt>
            {lengthText(bar.stands_out, unit)} {unit} stand out
          </dt>
          <dd>
            of {lengthText(bar.thick, unit)} thick; the last cut-off ends {lengthText(bar.behind, unit)} in
            front of the collet, at Z{lengthText(bar.reach, unit)} of the first
          </dd>
        </div>
      </dl>
    </>
  );
}

function PerAdvance({ bar, onTake }: { bar: Bar; onTake: (count: number) => void }) {
  return (
    <>
      <div className="fields">
        <label>
          Pieces of an advance
          <NumberCell
            label="Pieces of an advance"
            kind="number"
            value={bar.per_advance}
            text={String(bar.per_advance)}
            onCommit={(value) => onTake(Math.round(value ?? 1))}
          />
        </label>
        {bar.per_advance !== bar.most && (
          <button type="button" className="act" onClick={() => onTake(bar.most)}>
            As many as go: {bar.most}
          </button>
        )}
      </div>
      <p className="soft">
        {bar.most === 1 ? "One goes" : `${bar.most} go`} on an advance: {bar.why}.
      </p>
    </>
  );
}
