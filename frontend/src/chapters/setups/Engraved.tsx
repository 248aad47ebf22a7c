/** Letters or drawn lines on a flat side: where they lie, drawn to scale, how high and how deep. */
import { Form } from "react-bootstrap";
import { useState } from "react";
import type { EngravingView, SetupView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const MARGIN = 0.04; // of the face, around its drawing

export function Engraved({ setup }: { setup: SetupView }) {
  if (setup.engravable.length === 0 && setup.engravings.length === 0) return null;
  return (
    <>
      <h2>
        Engraved <span>on a flat side that this setup makes, by a fine mill</span>
      </h2>
      {setup.engravings.map((one) => (
        <Engraving key={one.id} one={one} sides={setup.engravable} />
      ))}
      {setup.engravable.length > 0 && <Another key={setup.id} sides={setup.engravable} />}
    </>
  );
}

function Another({ sides }: { sides: string[] }) {
  const { change, bringEngraving } = useDesk();
  const [side, setSide] = useState(sides[0] ?? "");
  const [text, setText] = useState("");
  const face = sides.includes(side) ? side : (sides[0] ?? "");
  return (
    <form
      className="elsewhere"
      aria-label="Engrave"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) void change({ change: "engrave", face, text }).then((done) => done && setText(""));
      }}
    >
      <label>
        On
        <Form.Select
          bsPrefix="choice"
          value={face}
          aria-label="Engrave on"
          onChange={(event) => setSide(event.target.value)}
        >
          {sides.map((id) => (
            <option key={id}>{id}</option>
          ))}
        </Form.Select>
      </label>
      <label>
        letters
        <Form.Control
          bsPrefix="entry"
          aria-label="Letters to engrave"
          value={text}
          maxLength={80}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="submit" className="act" disabled={!text.trim()}>
        Engrave
      </button>
      <label className="file-choice">
        or a drawing (DXF)
        <input
          type="file"
          accept=".dxf"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void bringEngraving(face, file);
            event.target.value = "";
          }}
        />
      </label>
    </form>
  );
}

function Engraving({ one, sides }: { one: EngravingView; sides: string[] }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const set = (values: Partial<Record<"height" | "depth" | "x" | "y" | "turn", number>>) =>
    void change({ change: "edit-engraving", engraving: one.id, ...values });
  const length = (name: "height" | "depth" | "x" | "y", label: string, digits: number) => (
    <label>
      {label}
      <NumberCell
        label={`${label} of ${one.words}`}
        kind="length"
        unit={unit}
        value={one[name]}
        text={lengthText(one[name], unit, digits)}
        onCommit={(value) => {
          if (value !== null) set({ [name]: value });
        }}
      />
    </label>
  );
  return (
    <div className="engraved">
      <FacePicture one={one} />
      <div>
        <p>
          <b>{one.words}</b> on{" "}
          <Form.Select
            bsPrefix="choice"
            aria-label={`Side of ${one.words}`}
            value={one.face}
            onChange={(event) =>
              void change({ change: "edit-engraving", engraving: one.id, face: event.target.value })
            }
          >
            {[...new Set([one.face, ...sides])].map((id) => (
              <option key={id}>{id}</option>
            ))}
          </Form.Select>{" "}
          <button
            type="button"
            className="act quiet"
            aria-label={`Do not engrave ${one.words}`}
            onClick={() => void change({ change: "remove-engraving", engraving: one.id })}
          >
            Take off
          </button>
        </p>
        <div className="engraved-values">
          {one.text && length("height", "Height", 2)}
          {length("depth", "Depth", 2)}
          {length("x", "X", 1)}
          {length("y", "Y", 1)}
          <label>
            {"Turn"}
            <NumberCell
              label={`Turn of ${one.words}`}
              kind="number"
              value={one.turn}
              text={fixed(one.turn, 1)}
              onCommit={(turn) => {
                if (turn !== null) set({ turn });
              }}
            />
          </label>
        </div>
        <p className="soft">{unit} and degrees, from the middle of the side along the setup’s X and Y</p>
      </div>
    </div>
  );
}

function FacePicture({ one }: { one: EngravingView }) {
  const points = [...one.rings.flat(), ...one.lines.flat()];
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
  const margin = MARGIN * Math.max(x1 - x0, y1 - y0, 1);
  const d = (line: (readonly [number, number])[]) => `M${line.map(([x, y]) => `${x} ${-y}`).join("L")}`;
  return (
    <svg
      className="engraved-face"
      role="img"
      aria-label={`${one.face} with ${one.words}`}
      viewBox={`${x0 - margin} ${-y1 - margin} ${x1 - x0 + 2 * margin} ${y1 - y0 + 2 * margin}`}
    >
      <path className="side" fillRule="evenodd" d={one.rings.map((ring) => `${d(ring)}Z`).join("")} />
      <path className="mark" d={one.lines.map(d).join("")} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}
