/** How an end mill goes about it: the ways of roughing with what each takes, and which way it goes along walls. */
import { Form } from "react-bootstrap";
import type { ChangeOf } from "../../api/changes";
import type { EntryView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { shortened } from "../../shell/words";
import { useDesk } from "../../shell/plan";

const CLIMB = "climb";
const CONVENTIONAL = "conventional";
const DIRECTIONS = [
  { value: CLIMB, words: "climbing" },
  { value: CONVENTIONAL, words: "conventional" },
] as const;

export function WayOfCutting({ entry }: { entry: EntryView }) {
  const { change } = useDesk();
  if (!entry.strategy && !entry.direction && !entry.rule) return null;
  const set = (values: Partial<ChangeOf<"edit-operation">>) =>
    void change({ change: "edit-operation", operation: entry.id, ...values });
  const fastest = Math.min(...entry.strategies.map((one) => one.seconds));
  const drawn = entry.strategies.map((one) => one.strategy);
  const others = entry.ways.filter((way) => !drawn.includes(way));
  const chosen = entry.rules.find((rule) => rule.by_hand)?.id ?? "";
  const makeAs = (features: string[], rule: string | null) =>
    void change({ change: "make-as", features, rule });
  return (
    <div className="way-of-cutting">
      {entry.rule && (
        <fieldset>
          <legend>{shortened(entry.features)} made by</legend>
          <Form.Select
            bsPrefix="choice"
            aria-label={`How ${shortened(entry.features)} is made`}
            className={chosen ? "decided" : undefined}
            value={chosen}
            onChange={(event) => makeAs(entry.features, event.target.value || null)}
          >
            <option value="">
              the rules: {entry.rules.find((rule) => rule.id === entry.rule)?.name.toLowerCase()}
            </option>
            {entry.rules.map((rule) => (
              <option key={rule.id} value={rule.id}>
                {rule.name}
              </option>
            ))}
          </Form.Select>
          {chosen && entry.alike.length > 0 && (
            <button type="button" className="act quiet" onClick={() => makeAs(entry.alike, chosen)}>
              The same for {entry.alike.length} alike
            </button>
          )}
        </fieldset>
      )}
      {entry.strategy && (
        <fieldset>
          <legend>Way of cutting</legend>
          {entry.strategies.map(({ strategy, seconds }) => (
            <label key={strategy}>
              <Form.Check.Input
                bsPrefix="tick"
                type="radio"
                name={`strategy ${entry.id}`}
                checked={entry.strategy === strategy}
                onChange={() => set({ strategy })}
              />{" "}
              {strategy} <b>{fixed(seconds, 1)} s</b>
              {seconds > fastest && <span className="soft"> +{fixed(seconds - fastest, 1)}</span>}
            </label>
          ))}
          {others.map((way) => (
            <button key={way} type="button" className="act quiet" onClick={() => set({ strategy: way })}>
              Try {way}
            </button>
          ))}
          {entry.edited.includes("strategy") && (
            <button type="button" className="act quiet" onClick={() => set({ clear: ["strategy"] })}>
              Whichever is quicker
            </button>
          )}
        </fieldset>
      )}
      {entry.direction && (
        <fieldset>
          <legend>Along walls</legend>
          {DIRECTIONS.map(({ value, words }) => (
            <label key={value}>
              <Form.Check.Input
                bsPrefix="tick"
                type="radio"
                name={`direction ${entry.id}`}
                checked={entry.direction === value}
                onChange={() => set(value === CLIMB ? { clear: ["direction"] } : { direction: value })}
              />{" "}
              {words}
            </label>
          ))}
        </fieldset>
      )}
    </div>
  );
}
