/** The plan's machines as a cell: who tends them, the pace that comes of it, and what a piece then costs. */
import { Form, Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { api, type CellRun, type CellView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { CellChart } from "../../views/CellChart";

type Decided = CellView["decided"];

export function CellOfPlan() {
  const { plan } = useDesk();
  const found = useQuery({
    queryKey: ["cell", plan.plan_id, plan.edition],
    queryFn: () => api.cell(plan.plan_id),
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  if (found.error) return <p className="finding">{found.error.message}</p>;
  if (!found.data) return <p className="empty">Setting up the cell …</p>;
  const { run: cell, decided, why } = found.data;
  if (!cell) return <p>No cell: {why}.</p>;
  return (
    <>
      <CellChart cell={cell} />
      <p className="cell-legend soft">
        <i className="tone-running" /> runs by itself <i className="tone-served" /> is served, works{" "}
        <i className="tone-walking" /> walks <i className="tone-waiting" /> waits
      </p>
      <div className="order-columns">
        <section aria-label="Stations" className="scroll">
          <Stations cell={cell} />
          <Money cell={cell} />
        </section>
        <section aria-label="How it is tended" className="scroll">
          <Findings of={(f) => f.chapter === "balance" && f.setup === ""} />
          <p role="status">
            One in <b>{fixed(cell.pace, 1)} s</b>, {Math.floor(cell.per_shift)} a shift. {cell.words}.
            {cell.takt !== null && ` The takt is ${fixed(cell.takt, 1)} s.`}{" "}
            {cell.pace - cell.bound > 0.05
              ? `No way of tending goes below ${fixed(cell.bound, 1)} s.`
              : "No way of tending is quicker."}
          </p>
          <Tending cell={cell} decided={decided} />
        </section>
      </div>
    </>
  );
}

function Stations({ cell }: { cell: CellRun }) {
  return (
    <Table bsPrefix="ledger-table">
      <thead>
        <tr>
          <th>Station</th>
          <th className="n">runs s</th>
          <th className="n">served s</th>
          <th className="n">pieces</th>
          <th className="n">s each</th>
          <th className="n" title="Pieces that lie before it, at the most">
            before it
          </th>
        </tr>
      </thead>
      <tbody>
        {cell.stations.map((one) => (
          <tr key={one.id}>
            <td>{one.name}</td>
            <td className="n">{one.cycle ? fixed(one.cycle, 1) : "–"}</td>
            <td className="n">{fixed(one.served, 1)}</td>
            <td className="n">{one.pieces}</td>
            <td className="n">{fixed(one.each, 1)}</td>
            <td className="n">{one.before ?? "–"}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Money({ cell }: { cell: CellRun }) {
  return (
    <>
      <h2>
        As a cell, and each load by itself <span>machines, people and setting up; price each</span>
      </h2>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th className="n">pieces</th>
            <th className="n">hours</th>
            <th className="n">shifts</th>
            <th className="n">as a cell</th>
            <th className="n">by itself</th>
            <th className="n" title="With material, tools, overhead and margin">
              price as a cell
            </th>
            <th className="n" title="What the plan is quoted at">
              plan’s price
            </th>
          </tr>
        </thead>
        <tbody>
          {cell.quantities.map((one) => (
            <tr key={one.quantity}>
              <td className="n">{one.quantity}</td>
              <td className="n">{fixed(one.hours, 1)}</td>
              <td className="n">{fixed(one.shifts, 1)}</td>
              <td className="n">{fixed(one.cell, 2)}</td>
              <td className="n">{fixed(one.apart, 2)}</td>
              <td className="n">{moneyText(one.price)}</td>
              <td className="n">{moneyText(one.price_apart)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="soft">
        The plan’s price is that of each load by itself; a cell saves time, not always money.
      </p>
    </>
  );
}

function Tending({ cell, decided }: { cell: CellRun; decided: Decided }) {
  const { change } = useDesk();
  const set = (values: Partial<Decided>) => void change({ change: "set-cell", ...decided, ...values });
  const number = (label: string, value: number | null, text: string, take: (value: number) => void) => (
    <tr>
      <th scope="row">{label}</th>
      <td className="n">
        <NumberCell
          label={label}
          kind="number"
          value={value ?? 0}
          text={text}
          onCommit={(typed) => {
            if (typed !== null) take(Number(typed));
          }}
        />
      </td>
    </tr>
  );
  return (
    <>
      <Table bsPrefix="ledger-table" className="tending">
        <tbody>
          {number("Operators", decided.operators, String(decided.operators), (operators) =>
            set({ operators, tends: [] }),
          )}
          {number("Walk between stations, s", decided.walk, fixed(decided.walk, 1), (walk) => set({ walk }))}
          {number("Most pieces between stations", decided.room, String(cell.room), (room) => set({ room }))}
          {number("Hours of a shift", decided.shift_hours, fixed(decided.shift_hours, 1), (shift_hours) =>
            set({ shift_hours }),
          )}
          {number(
            "Of it the cell runs, %",
            100 * decided.availability,
            fixed(100 * decided.availability, 0),
            (share) => set({ availability: share / 100 }),
          )}
          {number(
            "Pieces wanted a shift",
            decided.wanted,
            decided.wanted === null ? "–" : String(decided.wanted),
            (wanted) => set({ wanted }),
          )}
        </tbody>
      </Table>
      {decided.operators > 1 && <WhoTends cell={cell} decided={decided} onSet={(tends) => set({ tends })} />}
    </>
  );
}

function WhoTends(props: { cell: CellRun; decided: Decided; onSet: (tends: string[][]) => void }) {
  const { cell, decided, onSet } = props;
  const all = cell.stations.map((one) => one.id);
  const people = Array.from({ length: decided.operators }, (_, k) => decided.tends[k] ?? []);
  const own = people.map((stations) => (stations.length > 0 ? stations : all));
  return (
    <Table bsPrefix="ledger-table" className="tending">
      <thead>
        <tr>
          <th>Tends</th>
          {own.map((_, k) => (
            <th key={k} className="n">
              {k + 1}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {cell.stations.map((one) => (
          <tr key={one.id}>
            <th scope="row">{one.name}</th>
            {own.map((stations, k) => (
              <td key={k} className="n">
                <Form.Check
                  bsPrefix="tick"
                  aria-label={`Operator ${k + 1} tends ${one.name}`}
                  checked={stations.includes(one.id)}
                  onChange={(event) =>
                    onSet(
                      own.map((list, n) =>
                        n !== k
                          ? list
                          : all.filter((id) => (id === one.id ? event.target.checked : list.includes(id))),
                      ),
                    )
                  }
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
