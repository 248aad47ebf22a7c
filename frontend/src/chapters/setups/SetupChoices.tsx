/** What is decided for a setup; what is left to the rule says so. */
import { Form } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { among, type ChangeOf, type SetupChange } from "../../api/changes";
import { api, type SetupView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const SIDES = ["Z+", "Z-", "Y+", "Y-", "X+", "X-"] as const;
const TURNS = [0, 90, 180, 270] as const;
const ZEROS = ["stock", "part", "bore", "axis"] as const;
const LEVELS = ["top", "bottom"] as const;
const PLACES = [
  "centre",
  "left front",
  "right front",
  "left back",
  "right back",
  "left",
  "right",
  "front",
  "back",
] as const;

export function SetupChoices({ setup }: { setup: SetupView }) {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const library = useQuery({ queryKey: ["library"], queryFn: api.library });
  const set = (values: SetupChange) => void change({ ...values, setup: setup.id });
  const bores = setup.zero.choices.filter((choice) => choice.of === "bore");
  const zero = (values: Partial<ChangeOf<"set-zero">>) =>
    set({
      change: "set-zero",
      of: setup.zero.of,
      place: setup.zero.place,
      level: setup.zero.level,
      bore: setup.zero.bore,
      ...values,
    });
  const now = setup.hold.carriers.join(" ");
  return (
    <>
      <h2>
        Setup {setup.id}
        <span>
          {plan.setups.length > 1 && (
            <button type="button" className="act quiet" onClick={() => set({ change: "remove-setup" })}>
              Take this setup out
            </button>
          )}
        </span>
      </h2>
      <div className="choices fields">
        <label>
          Side up
          <Form.Select
            bsPrefix="choice"
            value={setup.up}
            onChange={(event) => {
              const up = among(SIDES, event.target.value);
              if (up) set({ change: "set-up", up });
            }}
          >
            {SIDES.map((side) => (
              <option key={side}>{side}</option>
            ))}
          </Form.Select>
        </label>
        <label>
          Turned
          <Form.Select
            bsPrefix="choice"
            value={setup.turn_decided ?? ""}
            onChange={(event) => set({ change: "set-turn", turn: among(TURNS, event.target.value) ?? null })}
          >
            <option value="">
              by the rule: {setup.hold.turns.find((t) => t.turn === setup.turn)?.words}
            </option>
            {setup.hold.turns.map(({ turn, words }) => (
              <option key={turn} value={turn}>
                {turn}°, {words}
              </option>
            ))}
          </Form.Select>
        </label>
        <label>
          Machine
          <Form.Select
            bsPrefix="choice"
            value={setup.machine}
            onChange={(event) => set({ change: "set-machine", machine: event.target.value })}
          >
            {library.data?.machines.map((machine) => (
              <option key={machine.id} value={machine.id}>
                {machine.name}
              </option>
            ))}
          </Form.Select>
        </label>
        <label className="wide">
          Held in
          <Form.Select
            bsPrefix="choice"
            value={setup.hold.decided ?? ""}
            onChange={(event) => set({ change: "set-fixture", fixture: event.target.value || null })}
          >
            <option value="">by the rule: {setup.hold.name}</option>
            {library.data?.fixtures.map((fixture) => (
              <option key={fixture.id} value={fixture.id}>
                {fixture.name}
              </option>
            ))}
          </Form.Select>
        </label>
        <label>
          Stands on
          <Form.Select
            bsPrefix="choice"
            value={now}
            onChange={(event) =>
              set({
                change: "set-carriers",
                carriers: event.target.value ? event.target.value.split(" ") : [],
              })
            }
          >
            <option value="">
              {setup.hold.needed ? `by the rule: ${setup.hold.needed}` : "the machine itself"}
            </option>
            {setup.hold.carriers.length > 0 &&
              !setup.hold.stacks.some(({ ids }) => ids.join(" ") === now) && (
                <option value={now}>{now}, which finds no mount here</option>
              )}
            {setup.hold.stacks.map(({ ids, words }) => (
              <option key={words} value={ids.join(" ")}>
                {words}
              </option>
            ))}
          </Form.Select>
        </label>
        {!setup.hold.spins && (
          <label>
            Indexed
            <Form.Select
              bsPrefix="choice"
              value={setup.hold.free ?? ""}
              onChange={(event) =>
                set({ change: "set-indexed", free: among(SIDES, event.target.value) ?? null })
              }
            >
              <option value="">no, from {setup.up} only</option>
              {SIDES.map((side) => (
                <option key={side} value={side}>
                  {side} stands free
                </option>
              ))}
            </Form.Select>
          </label>
        )}
        {setup.hold.grip > 0 && (
          <label>
            Grip, {unit}
            <NumberCell
              label="Grip"
              kind="length"
              unit={unit}
              column="setup"
              value={setup.hold.grip}
              text={lengthText(setup.hold.grip, unit, 1)}
              decided={setup.hold.grip_decided !== null}
              onCommit={(grip) => set({ change: "set-grip", grip })}
            />
          </label>
        )}
        {setup.hold.force > 0 && (
          <label>
            Jaws press, kN
            <NumberCell
              label="Force of the jaws"
              kind="number"
              unit={unit}
              column="setup"
              value={setup.hold.force}
              text={fixed(setup.hold.force, 1)}
              decided={setup.hold.force_decided !== null}
              onCommit={(force) => set({ change: "set-force", force })}
            />
          </label>
        )}
        {setup.hold.spacers.map((feature) => (
          <label key={feature}>
            Spacer in {feature}
            <button
              type="button"
              className="act"
              aria-label={`Take the spacer out of ${feature}`}
              onClick={() => set({ change: "set-spacer", feature, there: false })}
            >
              Take it out
            </button>
          </label>
        ))}
        <label>
          Zero of the
          <Form.Select
            bsPrefix="choice"
            value={setup.zero.of}
            onChange={(event) => zero({ of: among(ZEROS, event.target.value), bore: bores[0]?.bore ?? "" })}
          >
            <option value="stock">stock</option>
            <option value="part">finished part</option>
            {setup.hold.free !== null && <option value="axis">rotary axis</option>}
            {(bores.length > 0 || setup.zero.of === "bore") && <option value="bore">bore</option>}
          </Form.Select>
        </label>
        <label>
          Zero at
          {setup.zero.of === "axis" ? (
            <span className="fixed-value">the free end</span>
          ) : setup.zero.of === "bore" ? (
            <Form.Select
              bsPrefix="choice"
              value={setup.zero.bore}
              onChange={(event) => zero({ bore: event.target.value })}
            >
              {!bores.some((one) => one.bore === setup.zero.bore) && <option>{setup.zero.bore}</option>}
              {bores.map((one) => (
                <option key={one.bore}>{one.bore}</option>
              ))}
            </Form.Select>
          ) : (
            <Form.Select
              bsPrefix="choice"
              value={setup.zero.place}
              onChange={(event) => zero({ place: among(PLACES, event.target.value) })}
            >
              {PLACES.map((place) => (
                <option key={place}>{place}</option>
              ))}
            </Form.Select>
          )}
        </label>
        <label>
          Zero on
          <Form.Select
            bsPrefix="choice"
            disabled={setup.zero.of === "axis"}
            value={setup.zero.level}
            onChange={(event) => zero({ level: among(LEVELS, event.target.value) })}
          >
            <option>top</option>
            <option>bottom</option>
          </Form.Select>
        </label>
      </div>
      <p className="soft zero-words">
        {setup.zero.by_rule ? (
          <>By the rule: {setup.zero.why}. </>
        ) : (
          <>
            The rule takes {setup.zero.proposed}: {setup.zero.why}.{" "}
            <button type="button" className="act quiet" onClick={() => set({ change: "zero-by-rule" })}>
              Zero by the rule
            </button>{" "}
          </>
        )}
        {setup.zero.of !== "axis" &&
          !setup.hold.spins &&
          (setup.zero.least[0] < -0.001 || setup.zero.least[1] < -0.001) && (
            <>
              The stock goes down to X {lengthText(setup.zero.least[0], unit, 1)} Y{" "}
              {lengthText(setup.zero.least[1], unit, 1)} from here.{" "}
              <button
                type="button"
                className="act quiet"
                onClick={() => zero({ of: "stock", place: "left front" })}
              >
                All X and Y positive
              </button>
            </>
          )}
      </p>
    </>
  );
}
