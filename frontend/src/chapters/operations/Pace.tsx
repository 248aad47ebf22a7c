/** Speed and feed of one operation, tried out as the sliders move: seconds and money gained, life lost, load. */
import { Form, Table } from "react-bootstrap";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { api, type EntryView, type PaceView } from "../../api/client";
import { feedText, fixed, moneyText, signed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const LEAST = 50;

const percent = (share: number) => Math.max(LEAST, Math.round(100 * share));

export function Pace({ entry }: { entry: EntryView }) {
  const { plan, change } = useDesk();
  const [speed, setSpeed] = useState(percent(entry.speed));
  const [feed, setFeed] = useState(percent(entry.feed));
  const asked = useDeferredValue({ speed, feed });
  const tried = useQuery({
    queryKey: ["pace", plan.plan_id, plan.edition, entry.id, asked.speed, asked.feed],
    queryFn: () => api.pace(plan.plan_id, entry.id, asked.speed / 100, asked.feed / 100),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  const pace = tried.data;
  if (!pace) return <p className="soft">{tried.error ? tried.error.message : "Trying it out …"}</p>;
  const gives = pace.change.change === "edit-operation" ? (pace.change.clear ?? []) : [];
  const byHand = entry.edited.filter((name) => gives.includes(name));
  const taps = entry.by_pitch;
  const moved = speed !== percent(entry.speed) || feed !== percent(entry.feed);
  const most = { speed: percent(pace.speed_most), feed: percent(pace.feed_most) };
  return (
    <div className="pace" role="group" aria-label={`Speed and feed of ${entry.name}`}>
      <Slider
        label="Speed"
        value={speed}
        most={most.speed}
        stop={pace.speed_stop}
        onChange={(value) => setSpeed(value)}
      />
      {!taps && (
        <Slider
          label="Feed a tooth"
          value={feed}
          most={most.feed}
          stop={pace.feed_stop}
          onChange={(value) => setFeed(value)}
        />
      )}
      <Outcomes pace={pace} />
      <p>
        <button type="button" className="act" disabled={!moved} onClick={() => void change(pace.change)}>
          Run it so
        </button>{" "}
        <button
          type="button"
          className="act quiet"
          onClick={() => {
            setSpeed(Math.max(most.speed, percent(entry.speed)));
            if (!taps) setFeed(Math.max(most.feed, percent(entry.feed)));
          }}
        >
          To the limits
        </button>{" "}
        {(entry.edited.includes("speed") || entry.edited.includes("feed")) && (
          <button
            type="button"
            className="act quiet"
            onClick={() =>
              void change({
                change: "edit-operation",
                operation: entry.id,
                clear: ["speed", "feed"],
              })
            }
          >
            As usual
          </button>
        )}
        {entry.edited.length > 0 && pace.alike > 0 && (
          <button
            type="button"
            className="act quiet"
            onClick={() => void change({ change: "same-for-alike", operation: entry.id })}
          >
            The same for {pace.alike} alike
          </button>
        )}
        {byHand.length > 0 && <span className="soft"> {byHand.join(" and ")} set by hand gives way.</span>}
      </p>
    </div>
  );
}

function Slider(props: {
  label: string;
  value: number;
  most: number;
  stop: string;
  onChange: (value: number) => void;
}) {
  const { label, value, most, stop, onChange } = props;
  const top = Math.max(most, value, 100);
  return (
    <label className="pace-slider">
      <span>
        {label} <b>{value} %</b>
      </span>
      <Form.Range
        bsPrefix="slide"

        min={LEAST}
        max={top}
        value={value}
        aria-valuetext={`${value} percent of the usual`}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <span className="soft">
        up to {most} %: {stop}
      </span>
    </label>
  );
}

function Outcomes({ pace }: { pace: PaceView }) {
  const { unit } = useUnit();
  const { before, after } = pace;
  type Row = [name: string, now: string, so: string, apart: string];
  const rows: Row[] = [
    ["n, rpm", fixed(before.n, 0), fixed(after.n, 0), ""],
    [unit === "mm" ? "vf, mm/min" : "vf, in/min", feedText(before.vf, unit), feedText(after.vf, unit), ""],
    [
      "seconds of the operation",
      fixed(before.seconds, 1),
      fixed(after.seconds, 1),
      signed(after.seconds - before.seconds, 1),
    ],
    [
      "seconds a piece",
      fixed(before.per_piece, 1),
      fixed(after.per_piece, 1),
      signed(after.per_piece - before.per_piece, 1),
    ],
    [
      `price each at ${pace.quantity}`,
      moneyText(before.each),
      moneyText(after.each),
      signed(Number(after.each) - Number(before.each), 2),
    ],
    [
      "tool's life, minutes in cut",
      fixed(before.life, 0),
      fixed(after.life, 0),
      signed(after.life - before.life, 0),
    ],
    [
      `changes for wear in ${pace.quantity}`,
      String(before.changes),
      String(after.changes),
      signed(after.changes - before.changes, 0),
    ],
    [
      "power, kW",
      loadText(before.load.power, before.load.power_limit),
      loadText(after.load.power, after.load.power_limit),
      "",
    ],
    [
      "torque, N·m",
      loadText(before.load.torque, before.load.torque_limit),
      loadText(after.load.torque, after.load.torque_limit),
      "",
    ],
    ["force at the edge, N", fixed(before.load.force, 0), fixed(after.load.force, 0), ""],
  ];
  if (before.load.bend_limit > 0)
    rows.push(["tool bends, mm", bendText(before.load), bendText(after.load), ""]);
  return (
    <Table bsPrefix="ledger-table">
      <thead>
        <tr>
          <th />
          <th className="n">now</th>
          <th className="n">so</th>
          <th className="n" />
        </tr>
      </thead>
      <tbody aria-live="polite">
        {rows.map(([name, was, now, apart]) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            <td className="n">{was}</td>
            <td className="n">{now}</td>
            <td className="n">
              <b>{apart}</b>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

const loadText = (value: number, limit: number) => `${fixed(value, 2)} of ${fixed(limit, 1)}`;

const bendText = (load: PaceView["before"]["load"]) =>
  `${fixed(load.bend, 3)} of ${fixed(load.bend_limit, 2)}`;
