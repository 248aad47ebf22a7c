/** How the model is looked at: colouring, what is hidden, a section, measuring. */
import { Form } from "react-bootstrap";
import type { MeshView, PickReadingView } from "../../api/client";
import { fixed, lengthText, type Unit } from "../../shell/numbers";
import type { Section } from "../../views/Model3D";
import { COLOURINGS, type Colouring, type Legend } from "./tones";

const AXES = ["X", "Y", "Z"] as const;

export function LookTools(props: {
  colouring: Colouring;
  onColouring: (next: Colouring) => void;
  anyChosen: boolean;
  anyHidden: boolean;
  onIsolate: () => void;
  onHide: () => void;
  onShowAll: () => void;
  section: Section | null;
  onSection: (next: Section | null) => void;
  measuring: boolean;
  onMeasuring: (on: boolean) => void;
  mesh: MeshView;
  unit: Unit;
}) {
  const { section, onSection, mesh, unit } = props;
  const cut = (axis: 0 | 1 | 2): Section => ({
    axis,
    at: ((mesh.min[axis] ?? 0) + (mesh.max[axis] ?? 0)) / 2,
    flipped: axis === 1, // the half away from the eye stays
  });
  return (
    <div className="look-tools" role="group" aria-label="How the part is shown">
      <label>
        Coloured{" "}
        <Form.Select
          bsPrefix="choice"
          value={props.colouring}
          onChange={(event) => props.onColouring(event.target.value as Colouring)}
        >
          {Object.entries(COLOURINGS).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </Form.Select>
      </label>
      <button type="button" className="act quiet" disabled={!props.anyChosen} onClick={props.onIsolate}>
        Only the chosen
      </button>
      <button type="button" className="act quiet" disabled={!props.anyChosen} onClick={props.onHide}>
        Without the chosen
      </button>
      <button type="button" className="act quiet" disabled={!props.anyHidden} onClick={props.onShowAll}>
        All again
      </button>
      <button
        type="button"
        className="act quiet"
        aria-pressed={section !== null}
        onClick={() => onSection(section ? null : cut(1))}
      >
        Cut open
      </button>
      <button
        type="button"
        className="act quiet"
        aria-pressed={props.measuring}
        onClick={() => props.onMeasuring(!props.measuring)}
      >
        Measure
      </button>
      {section && (
        <span className="section-tools">
          <Form.Select
            bsPrefix="choice"
            aria-label="Square to"
            value={section.axis}
            onChange={(event) => onSection(cut(Number(event.target.value) as 0 | 1 | 2))}
          >
            {AXES.map((name, i) => (
              <option key={name} value={i}>
                {name}
              </option>
            ))}
          </Form.Select>
          <Form.Range
            bsPrefix="slide"

            aria-label={`Cut at ${AXES[section.axis]}`}
            min={mesh.min[section.axis]}
            max={mesh.max[section.axis]}
            step="any"
            value={section.at}
            onChange={(event) => onSection({ ...section, at: Number(event.target.value) })}
          />
          <span className="n">{lengthText(section.at, unit, 1)}</span>
          <button
            type="button"
            className="act quiet"
            onClick={() => onSection({ ...section, flipped: !section.flipped })}
          >
            Other half
          </button>
        </span>
      )}
    </div>
  );
}

export function LegendLine({ legend }: { legend: Legend }) {
  if (legend.length === 0) return null;
  return (
    <p className="tone-legend">
      {legend.map(({ tone, label }) => (
        <span key={label}>
          <i style={{ background: tone }} /> {label}
        </span>
      ))}
    </p>
  );
}

export function MeasureLine(props: { picks: number; readings: PickReadingView[]; unit: Unit }) {
  const { picks, readings, unit } = props;
  return (
    <p className="card-line" aria-live="polite">
      {picks === 0 && <span className="soft">Point at a first place on the part, then at a second.</span>}
      {picks === 1 && <span className="soft">Now the second place; pointing again begins anew.</span>}
      {readings.map((reading) => (
        <span key={reading.label}>
          {reading.label}{" "}
          <b>{reading.unit === "deg" ? `${fixed(reading.value, 2)}°` : lengthText(reading.value, unit, 3)}</b>
        </span>
      ))}
    </p>
  );
}
