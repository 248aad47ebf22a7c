/** Each operation with the carriage that makes it, its speed, and what it waits for. */
import { useRef, useState, type KeyboardEvent } from "react";
import { Form, Table } from "react-bootstrap";
import type { BalancedLoadView, LaneCallView } from "../../api/client";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

type Row = { carriage: string; call: LaneCallView };

export function OnCarriages(props: {
  load: BalancedLoadView;
  chosen: string | null;
  onChoose: (operation: string) => void;
}) {
  const { load, chosen, onChoose } = props;
  const { change } = useDesk();
  const [picked, setPicked] = useState<string[]>([]);
  const body = useRef<HTMLTableSectionElement>(null);
  const rows = rowsOf(load);
  const able = picked.filter((id) => rows.some((row) => row.call.operation === id));
  const move = (operation: string, carriage: string | undefined) => {
    if (carriage !== undefined) void change({ change: "set-carriage", load: load.load, operation, carriage });
  };
  const key = (event: KeyboardEvent<HTMLTableRowElement>, row: Row, index: number) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step || event.target !== event.currentTarget) return;
    event.preventDefault();
    const able = carriagesFor(load, row.carriage);
    if (event.altKey) move(row.call.operation, able[able.indexOf(row.carriage) + step]);
    else body.current?.querySelectorAll<HTMLElement>("tr")[index + step]?.focus();
  };
  const share = () => void change({ change: "share-speed", load: load.load, operations: able });
  return (
    <>
      <Table bsPrefix="ledger-table" className="on-carriages">
        <thead>
          <tr>
            <th aria-label="Picked to share a speed" />
            <th>Operation</th>
            <th>Carriage</th>
            <th className="n">rpm</th>
            <th className="n">from s</th>
            <th className="n">to s</th>
            <th className="n">waits s</th>
            <th>for</th>
          </tr>
        </thead>
        <tbody ref={body}>
          {rows.map((row, k) => (
            <tr
              key={row.call.operation}
              tabIndex={0}
              className={row.call.operation === chosen ? "sel" : undefined}
              onFocus={() => onChoose(row.call.operation)}
              onKeyDown={(event) => key(event, row, k)}
            >
              <td>
                {row.call.most !== null && (
                  <Form.Check
                    bsPrefix="tick"
                    aria-label={`Pick ${row.call.name}`}
                    checked={able.includes(row.call.operation)}
                    onChange={(event) =>
                      setPicked(
                        event.target.checked
                          ? [...able, row.call.operation]
                          : able.filter((id) => id !== row.call.operation),
                      )
                    }
                  />
                )}
              </td>
              <td className="op-name" title={row.call.name}>
                T{row.call.tool} {row.call.name}
                {row.call.counter && <span className="soft"> · counter spindle</span>}
              </td>
              <td>
                <Form.Select
                  bsPrefix="choice"
                  aria-label={`Carriage of ${row.call.name}`}
                  value={row.carriage}
                  onChange={(event) => move(row.call.operation, event.target.value)}
                >
                  {carriagesFor(load, row.carriage).map((one) => (
                    <option key={one}>{one}</option>
                  ))}
                </Form.Select>
              </td>
              <td className="n">
                {!row.call.steady && "from "}
                {row.call.n.toFixed(0)}
                {row.call.shared !== null && " shared"}
              </td>
              <td className="n">{fixed(row.call.go, 1)}</td>
              <td className="n">{fixed(row.call.end, 1)}</td>
              <td className="n">
                {row.call.go - row.call.ready > 0.005 ? fixed(row.call.go - row.call.ready, 1) : "–"}
              </td>
              <td className="soft why" title={row.call.why}>
                {row.call.waits_for && `${row.call.waits_for}: ${row.call.why}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="cures">
        <button type="button" className="act" disabled={able.length < 2} onClick={share}>
          Turn the picked ones at one speed
        </button>
        {load.split.map((one) => (
          <button
            key={one.operation}
            type="button"
            className="act quiet"
            onClick={() =>
              void change({
                change: "split-operation",
                load: load.load,
                operation: one.operation,
                parts: 1,
              })
            }
          >
            {one.name} in one again
          </button>
        ))}
        {load.both_sides.map((one) => (
          <button
            key={one.operation}
            type="button"
            className="act quiet"
            onClick={() =>
              void change({
                change: "from-both-sides",
                load: load.load,
                operation: one.operation,
                on: !one.on,
              })
            }
          >
            {one.name} {one.on ? "from one side again" : "from both sides"}
          </button>
        ))}
        {load.groups.map((group) => (
          <button
            key={group.operations.join()}
            type="button"
            className="act quiet"
            onClick={() =>
              void change({ change: "own-speed", load: load.load, operations: group.operations })
            }
          >
            Take the {group.n.toFixed(0)} rpm of {group.operations.length} back
          </button>
        ))}
        <button
          type="button"
          className="act quiet"
          onClick={() => void change({ change: "one-after-other", load: load.load })}
        >
          One after the other
        </button>
      </p>
      <p className="soft">
        Drag an operation to another lane, or give its row the focus and press <kbd>Alt</kbd> <kbd>↑</kbd>{" "}
        <kbd>↓</kbd>. Two that turn at one speed can run beside one another.
      </p>
    </>
  );
}

/** Once each, as they begin. */
function rowsOf(load: BalancedLoadView): Row[] {
  const all = load.lanes.flatMap((lane) => lane.calls.map((call) => ({ carriage: lane.carriage, call })));
  if (!load.drum) all.sort((a, b) => a.call.go - b.call.go);
  return all.filter((row, k) => all.findIndex((other) => other.call.operation === row.call.operation) === k);
}

/** Those that a tool of this one could work from: of a drum the slides on the same side of the spindles. */
function carriagesFor(load: BalancedLoadView, carriage: string): string[] {
  const slide = load.lanes.find((lane) => lane.carriage === carriage)?.slide;
  return load.lanes.filter((lane) => lane.slide === slide).map((lane) => lane.carriage);
}
