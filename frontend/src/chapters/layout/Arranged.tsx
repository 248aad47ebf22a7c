/** How the pieces of a load are arranged: columns, rows, sides, stations, gaps. */
import { Form } from "react-bootstrap";
import type { ChangeOf } from "../../api/changes";
import type { LayoutView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const WORDS = { columns: "Columns", rows: "Rows" };
const BY = ["tool", "operation", "piece", "hand"] as const;
const BY_WORDS = {
  tool: "each tool at all pieces",
  operation: "each operation at all pieces",
  piece: "all of one piece, then the next",
  hand: "in an order of its own, see Order",
};

type Values = Partial<Omit<ChangeOf<"set-arrangement">, "change" | "load">>;

export function Arranged({ load }: { load: LayoutView }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const set = (values: Values) => void change({ change: "set-arrangement", load: load.load, ...values });
  const [x, y] = load.least;
  const back = load.pieces.map((piece): [string, number, number] => [piece.id, 0, 0]);
  const [columns, rows] = load.fit;
  const fit = { columns, rows };
  const most = columns * rows;
  const full = load.columns === fit.columns && load.rows === fit.rows;
  return (
    <>
      <h2>
        Arranged <span>columns along X, rows along Y of {load.machine}</span>
      </h2>
      <div className="fields">
        {(["columns", "rows"] as const).map((what) => (
          <label key={what}>
            {WORDS[what]}
            <NumberCell
              label={WORDS[what]}
              kind="number"
              value={load[what]}
              text={String(load[what])}
              onCommit={(value) => set({ [what]: Math.round(value ?? 1) })}
            />
          </label>
        ))}
        {([0, 1] as const).map((axis) => (
          <label key={axis}>
            Gap along {"XY"[axis]}, {unit}
            <NumberCell
              label={`Gap along ${"XY"[axis]}`}
              kind="length"
              unit={unit}
              value={load.gap[axis]}
              text={lengthText(load.gap[axis], unit)}
              decided={load.gap_decided[axis]}
              onCommit={(value) => set({ gap: [[axis === 0 ? "X" : "Y", value]] })}
            />
          </label>
        ))}
        {load.most_stations > 1 && load.in_turn !== "stations" && (
          <label>
            Stations loaded
            <Form.Select
              bsPrefix="choice"
              value={load.stations}
              onChange={(event) => set({ stations: Number(event.target.value) })}
            >
              {Array.from({ length: load.most_stations }, (_, k) => (
                <option key={k} value={k + 1}>
                  {k + 1} of each vise
                </option>
              ))}
            </Form.Select>
          </label>
        )}
        {load.joined && (
          <label>
            Pieces in one bar
            <NumberCell
              label="Pieces in one bar"
              kind="number"
              value={load.joined.pieces}
              text={String(load.joined.pieces)}
              onCommit={(value) => set({ joined: Math.round(value ?? 1) })}
            />
          </label>
        )}
        {load.joined && load.joined.pieces > 1 && (
          <label>
            Rows in one plate
            <NumberCell
              label="Rows in one plate"
              kind="number"
              value={load.joined.rows}
              text={String(load.joined.rows)}
              onCommit={(value) => set({ joined_rows: Math.round(value ?? 1) })}
            />
          </label>
        )}
        {load.pieces.length > 1 && (
          <Choice
            label="Made"
            wide
            values={BY.filter((by) => by !== "hand" || load.by === "hand")}
            words={BY_WORDS}
            value={load.by}
            onChoose={(by) =>
              by !== "hand" && void change({ change: "set-piece-order", load: load.load, by })
            }
          />
        )}
      </div>
      <p className="runs">
        <label>
          <input
            type="checkbox"
            checked={load.beside}
            onChange={(event) =>
              void change({ change: "load-beside", load: load.load, on: event.target.checked })
            }
          />{" "}
          The next load is laid in beside the running cycle
        </label>
      </p>
      {load.can_have_sides && <Sides load={load} onChange={(sides) => set({ sides })} />}
      <p className="cures">
        {!full && (
          <button type="button" className="act" onClick={() => set(fit)}>
            As many as fit:{" "}
            {(most * Math.max(1, load.sides.length) * load.stations * (load.joined?.together ?? 1)) /
              load.setups.length}
          </button>
        )}
        {load.pieces.some((piece) => piece.moved[0] !== 0 || piece.moved[1] !== 0) && (
          <button type="button" className="act quiet" onClick={() => set({ moved: back })}>
            All back to their places
          </button>
        )}
        {load.pieces.length > 1 && load.setups.length === 1 && (
          <button
            type="button"
            className="act quiet"
            onClick={() =>
              set({
                columns: 1,
                rows: 1,
                sides: [],
                stations: 1,
                joined: 1,
                joined_rows: 1,
                gap: [
                  ["X", null],
                  ["Y", null],
                ],
                moved: back,
              })
            }
          >
            One piece
          </button>
        )}
      </p>
      <dl className="pitches">
        {load.joined && load.joined.pieces > 1 && (
          <div>
            <dt>
              A {load.joined.word} of {load.joined.together} is {lengthText(load.joined.length, unit)}
              {load.joined.rows > 1 ? ` × ${lengthText(load.joined.width, unit)} ${unit}` : ` ${unit} long`}
            </dt>
            <dd>
              {load.joined.vises === 1 ? "in one vise" : `in ${load.joined.vises} vises`}, sawn apart
              afterwards: {lengthText(load.joined.gap, unit)} {unit} between two parts,{" "}
              {lengthText(load.joined.kerf, unit)} of it the saw&apos;s
            </dd>
          </div>
        )}
        {([x, y] as const).map((least, axis) => (
          <div key={axis}>
            <dt>
              Pitch along {"XY"[axis]} {lengthText(load.pitch[axis] ?? 0, unit)} {unit}
            </dt>
            <dd>
              {least.because ? (
                <>
                  at least {lengthText(least.pitch, unit)} for{" "}
                  {least.operation ? `“${least.because}”` : least.because};{" "}
                </>
              ) : null}
              {least.most > 1 ? `${fixed(least.most, 0)} go on: ` : "one goes on: "}
              {least.why}
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}

function Sides({ load, onChange }: { load: LayoutView; onChange: (sides: number[]) => void }) {
  const known = [...new Set([...(load.faces.length > 1 ? load.faces : [0, 90, 180, 270]), ...load.sides])];
  const faces = known.sort((a, b) => a - b);
  return (
    <fieldset className="sides">
      <legend>Sides of the rotary</legend>
      {faces.map((face) => (
        <label key={face}>
          <input
            type="checkbox"
            checked={load.sides.includes(face)}
            onChange={(event) =>
              onChange(
                event.target.checked
                  ? [...load.sides, face].sort((a, b) => a - b)
                  : load.sides.filter((side) => side !== face),
              )
            }
          />{" "}
          {face}°
        </label>
      ))}
      <button type="button" className="act quiet" onClick={() => onChange(faces)}>
        All {faces.length}
      </button>
    </fieldset>
  );
}
