/** Which setups lie in a load: others taken in beside its own, what holds them in turn, and apart again. */
import { useState } from "react";
import { Form } from "react-bootstrap";
import type { LayoutView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { useDesk } from "../../shell/plan";

type Along = LayoutView["in_turn"];

const WORDS: Record<Along, string> = {
  spindles: "the counter spindle takes the second over",
  stations: "station by station of each vise",
  columns: "column by column",
  rows: "row by row",
  sides: "side by side of the rotary",
};

export function Together({ load }: { load: LayoutView }) {
  const { change } = useDesk();
  const [asked, setAsked] = useState("");
  const joins = load.can_join;
  const join = joins.find((one) => one.setup === asked) ?? joins[0];
  const several = load.setups.length > 1;
  if (!several && !join) return null;
  return (
    <>
      <h2>
        Lies in it <span>{several ? "each cycle makes all of them" : "one setup"}</span>
      </h2>
      {several && (
        <div className="fields">
          <Choice
            label="In turn"
            wide
            values={load.turns}
            words={WORDS}
            value={load.in_turn}
            onChoose={(along) => void change({ change: "set-arrangement", load: load.load, in_turn: along })}
          />
          <button
            type="button"
            className="act quiet"
            onClick={() => void change({ change: "load-apart", load: load.load })}
          >
            Take them apart
          </button>
        </div>
      )}
      {join && <Join key={join.setup} load={load} join={join} onAsk={setAsked} />}
    </>
  );
}

type JoinProps = { load: LayoutView; join: LayoutView["can_join"][number]; onAsk: (setup: string) => void };

function Join({ load, join, onAsk }: JoinProps) {
  const { change } = useDesk();
  const [chosen, setAlong] = useState<Along | null>(null);
  const along = chosen && join.along.includes(chosen) ? chosen : (join.along[0] ?? "columns");
  return (
    <div className="fields">
      <label>
        Also in it
        <Form.Select bsPrefix="choice" value={join.setup} onChange={(event) => onAsk(event.target.value)}>
          {load.can_join.map((one) => (
            <option key={one.setup}>{one.setup}</option>
          ))}
        </Form.Select>
      </label>
      <Choice label="Laid" wide values={join.along} words={WORDS} value={along} onChoose={setAlong} />
      <button
        type="button"
        className="act"
        onClick={() =>
          void change({ change: "load-together", load: load.load, setup: join.setup, in_turn: along })
        }
      >
        {join.setup} beside {load.name}
      </button>
    </div>
  );
}
