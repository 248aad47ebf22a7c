/** Which pieces share a work offset, where the numbers begin, and what stays untouched. */
import { useState } from "react";
import { Form } from "react-bootstrap";
import type { ChangeOf } from "../../api/changes";
import type { LayoutView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { useDesk } from "../../shell/plan";

const POLICIES = ["piece", "group", "load"] as const;
const WALKS = ["rows", "columns", "snake"] as const;
const POLICY_WORDS = {
  piece: "one for each piece",
  group: "one for each row, or side",
  load: "one for the load",
};
const MEANS = {
  piece: "Each piece is touched off by itself: a jaw that is changed later moves one zero.",
  group: "A row is touched off once: its jaws have to stand to one another as drawn.",
  load: "All is touched off once: every jaw has to stand as drawn, and changed jaws are adjusted by hand.",
};
const EACH = "Each front has an offset of its own along the bar.";
const ON_BAR = {
  piece: EACH,
  group: EACH,
  load: "The first front is touched off; the others follow at the piece’s length, what is left and the blade.",
};
const WALK_WORDS = { rows: "row after row", columns: "column after column", snake: "rows, there and back" };

type Values = Partial<Omit<ChangeOf<"set-offsets">, "change" | "load">>;

export function Offsets({ load }: { load: LayoutView }) {
  const { change } = useDesk();
  const [reserving, setReserving] = useState("");
  const set = (values: Values) => void change({ change: "set-offsets", load: load.load, ...values });
  const several = load.pieces.length > 1;
  return (
    <>
      <h2>
        Work offsets{" "}
        <span>
          {load.words[0]} to {load.words.at(-1)}
        </span>
      </h2>
      <div className="fields choices">
        {several && (
          <>
            <Choice
              label="Shared"
              values={POLICIES}
              words={POLICY_WORDS}
              value={load.policy}
              onChoose={(policy) => set({ policy })}
            />
            <Choice
              label="Numbered"
              values={WALKS}
              words={WALK_WORDS}
              value={load.walk}
              onChoose={(walk) => set({ walk })}
            />
          </>
        )}
        <label>
          Begin at
          <Form.Select
            bsPrefix="choice"
            value={load.first ?? ""}
            onChange={(event) => set({ first: event.target.value })}
          >
            <option value="">the first that is free</option>
            {load.words.map((word) => (
              <option key={word}>{word}</option>
            ))}
          </Form.Select>
        </label>
        <label>
          Keep free
          <Form.Select
            bsPrefix="choice"
            value={reserving}
            onChange={(event) => {
              setReserving("");
              if (event.target.value) set({ reserved: [...load.reserved, event.target.value] });
            }}
          >
            <option value="">choose one</option>
            {load.words
              .filter((word) => !load.reserved.includes(word))
              .map((word) => (
                <option key={word}>{word}</option>
              ))}
          </Form.Select>
        </label>
      </div>
      {load.reserved.length > 0 && (
        <p className="cures">
          {load.reserved.map((word) => (
            <button
              key={word}
              type="button"
              className="act quiet"
              aria-label={`Use ${word} again`}
              onClick={() => set({ reserved: load.reserved.filter((one) => one !== word) })}
            >
              {word} is kept free ×
            </button>
          ))}
        </p>
      )}
      {several && <p className="soft">{load.bar ? ON_BAR[load.policy] : MEANS[load.policy]}</p>}
    </>
  );
}
