/** Shifts of machines, overtime, days until stock is here, days that the shop is closed. */
import { useState } from "react";
import { Table } from "react-bootstrap";
import type { HoursBody } from "../../api/business";
import type { Schemas } from "../../api/types";
import { fixed } from "../../shell/numbers";
import { Field, WordsCell } from "../../shell/WordsCell";

type Shift = Schemas["ShiftBody"];
type Props = { view: Schemas["CapacityView"]; onPut: (more: Partial<HoursBody>) => void };

const plain = (words: string) => words.replace(",", ".").trim();
/** Percent as typed; what is no number is sent as it is, and refused with its reason. */
const share = (words: string) => {
  const text = plain(words.replace("%", ""));
  return text !== "" && Number.isFinite(Number(text)) ? (Number(text) / 100).toFixed(4) : words;
};
const percent = (text: string) => fixed(100 * Number(text), 0);

export function Hours({ view, onPut }: Props) {
  const { hours } = view;
  const putShift = (machine: string, more: Partial<Shift>) => {
    if (machine === "") return onPut({ shift: { ...hours.shift, ...more } });
    const known = hours.shifts.find((one) => one.machine === machine) ?? { ...hours.shift, machine };
    const others = hours.shifts.filter((one) => one.machine !== machine);
    onPut({ shifts: [...others, { ...known, ...more }] });
  };
  return (
    <section aria-label="Hours" className="hours">
      <h2>
        Shifts <span>of which a share can be booked</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Machine</th>
            <th className="n">h a day</th>
            <th className="n">days</th>
            <th className="n">booked %</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <ShiftRow name="all others" shift={hours.shift} onPut={(more) => putShift("", more)} />
          {view.machines.map((one) => (
            <ShiftRow
              key={one.machine}
              name={one.name}
              shift={one.shift}
              own={one.own}
              onPut={(more) => putShift(one.machine, more)}
              onDrop={() => onPut({ shifts: hours.shifts.filter((s) => s.machine !== one.machine) })}
            />
          ))}
        </tbody>
      </Table>
      <h2>Lead time and rush</h2>
      <div className="hour-fields">
        <Field words="Working days until stock is here">
          <WordsCell
            label="Working days until stock is here"
            value={String(hours.material_days)}
            longest={3}
            onCommit={(words) => onPut({ material_days: whole(words) })}
          />
        </Field>
        <Field words="Working days of work elsewhere">
          <WordsCell
            label="Working days of work elsewhere"
            value={String(hours.outside_days)}
            longest={3}
            onCommit={(words) => onPut({ outside_days: whole(words) })}
          />
        </Field>
        <Field words="Overtime, at most h a day">
          <WordsCell
            label="Overtime, at most h a day"
            value={hours.overtime}
            longest={6}
            onCommit={(words) => onPut({ overtime: plain(words) })}
          />
        </Field>
        <Field words="Its surcharge on labour, %">
          <WordsCell
            label="Surcharge of overtime, percent"
            value={percent(hours.surcharge)}
            longest={6}
            onCommit={(words) => onPut({ surcharge: share(words) })}
          />
        </Field>
      </div>
      <h2>Closed</h2>
      <ul className="closed-days">
        {hours.closed.map((one) => (
          <li key={`${one.first} ${one.last}`}>
            {one.first} to {one.last} {one.why}{" "}
            <button
              type="button"
              className="act quiet"
              aria-label={`Take out: closed from ${one.first}`}
              onClick={() => onPut({ closed: hours.closed.filter((other) => other !== one) })}
            >
              Take out
            </button>
          </li>
        ))}
      </ul>
      <NewClosed onAdd={(one) => onPut({ closed: [...hours.closed, one] })} />
    </section>
  );
}

/** What is no whole number becomes −1 and is refused with its reason. */
const whole = (words: string) => (/^\d{1,3}$/.test(words.trim()) ? Number(words) : -1);

type RowProps = {
  name: string;
  shift: Shift;
  own?: boolean;
  onPut: (more: Partial<Shift>) => void;
  onDrop?: () => void;
};

function ShiftRow({ name, shift, own, onPut, onDrop }: RowProps) {
  return (
    <tr className={own ? "own-shift" : undefined}>
      <td>{name}</td>
      <td className="n">
        <WordsCell
          label={`Hours a day, ${name}`}
          value={shift.hours}
          longest={6}
          onCommit={(words) => onPut({ hours: plain(words) })}
        />
      </td>
      <td className="n">
        <WordsCell
          label={`Days a week, ${name}`}
          value={String(shift.days)}
          longest={1}
          onCommit={(words) => onPut({ days: whole(words) })}
        />
      </td>
      <td className="n">
        <WordsCell
          label={`Share that can be booked, ${name}, percent`}
          value={percent(shift.available)}
          longest={6}
          onCommit={(words) => onPut({ available: share(words) })}
        />
      </td>
      <td>
        {own && (
          <button type="button" className="act quiet" aria-label={`As all others: ${name}`} onClick={onDrop}>
            As all others
          </button>
        )}
      </td>
    </tr>
  );
}

function NewClosed({ onAdd }: { onAdd: (one: Schemas["ClosedBody"]) => void }) {
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const [why, setWhy] = useState("");
  return (
    <div className="new-closed">
      <input
        type="date"
        aria-label="Closed from"
        value={first}
        onChange={(event) => setFirst(event.target.value)}
      />
      <input
        type="date"
        aria-label="Closed to"
        value={last}
        onChange={(event) => setLast(event.target.value)}
      />
      <input
        aria-label="Why closed"
        placeholder="why"
        maxLength={120}
        value={why}
        onChange={(event) => setWhy(event.target.value)}
      />
      <button
        type="button"
        className="act"
        disabled={first === "" || last === ""}
        onClick={() => onAdd({ first, last, why })}
      >
        Close
      </button>
    </div>
  );
}
