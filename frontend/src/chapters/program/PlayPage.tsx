/** The cycle once more: tool and stock over what holds it, at any speed, up to whatever is wrong. */
import { Form, Table } from "react-bootstrap";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type PlayView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Model3D, type Spot } from "../../views/Model3D";
import { FixtureBody, MovingTool, Trail } from "../../views/PlayScene";
import { stockMesh } from "../../views/stockMesh";

const SPEEDS = [1, 2, 5, 10, 30, 100];
const NO_TONES = new Map<number, string>();

export default function PlayPage() {
  const { plan } = useDesk();
  const play = useQuery({
    queryKey: ["play", plan.plan_id, plan.edition, plan.stock_followed],
    queryFn: () => api.play(plan.plan_id),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  if (play.error) return <p className="finding">{play.error.message}</p>;
  if (!play.data) return <p className="empty">Setting up the machine …</p>;
  const [first] = play.data.entries;
  if (!first) return <p className="empty">No operation to play yet.</p>;
  return <Player key={play.data.entries.length} play={play.data} first={first} />;
}

/** Which operation runs at a time. */
function indexAt(play: PlayView, at: number): number {
  let found = 0;
  play.entries.forEach((entry, i) => {
    if (entry.start <= at + 1e-9) found = i;
  });
  return found;
}

function Player({ play, first }: { play: PlayView; first: PlayView["entries"][number] }) {
  const { plan } = useDesk();
  const { at, seek, playing, run, pause, speed, setSpeed, stopped } = usePlayer(play);
  const index = indexAt(play, at);
  const entry = play.entries[index] ?? first;
  const local = at - entry.start - entry.lead;
  const done = at >= play.total - 1e-6;
  const count = done ? play.entries.length : index;
  const setup = play.setups.find((one) => one.setup === entry.setup);
  const mesh = useStock(count, play.entries.length);
  const extent = useExtent();
  const way = useQuery({
    queryKey: ["tool-way", plan.plan_id, plan.edition, entry.operation],
    queryFn: () => api.toolWay(plan.plan_id, entry.operation),
    staleTime: Infinity,
  });
  const here = way.data ? placeAt(way.data, local) : null;
  const from = useMemo(() => (setup ? looking(setup) : undefined), [setup]);
  return (
    <div className="play">
      <section aria-label="The cycle in 3D">
        {mesh && extent && from ? (
          <Model3D
            mesh={mesh}
            extent={extent}
            tones={NO_TONES}
            from={from}
            share={0.55}
            label="The cycle"
            onPick={() => undefined}
            onHover={() => undefined}
            scene={
              <>
                {setup && <FixtureBody solid={setup.fixture} />}
                {way.data && here && !done && (
                  <>
                    <Trail way={way.data} upTo={here.index} />
                    <MovingTool way={way.data} at={here.at} />
                  </>
                )}
              </>
            }
          />
        ) : (
          <p className="empty">Cutting the stock …</p>
        )}
        <div className="play-line">
          <button type="button" className="act main" onClick={playing ? pause : run}>
            {playing ? "Pause" : done ? "Again" : "Play"}
          </button>
          <label>
            Speed{" "}
            <Form.Select
              bsPrefix="choice"
              value={speed}
              onChange={(event) => setSpeed(Number(event.target.value))}
            >
              {SPEEDS.map((one) => (
                <option key={one} value={one}>
                  {one} ×
                </option>
              ))}
            </Form.Select>
          </label>
          <Form.Range
            bsPrefix="slide"

            min={0}
            max={play.total}
            step={0.05}
            value={at}
            aria-label="Time in the cycle"
            aria-valuetext={`${clock(at)}, ${entry.name}`}
            onChange={(event) => {
              pause();
              seek(Number(event.target.value));
            }}
          />
          <span className="play-clock">
            <b>{clock(at)}</b> of {clock(play.total)}
          </span>
        </div>
        <p className="play-now" aria-live="polite">
          {done ? (
            "The cycles are over."
          ) : (
            <>
              <b>{entry.setup}</b> {entry.name}, {entry.tool} ·{" "}
              {local < 0 ? "on its way: change, rapid, start" : here?.rapid ? "rapid" : "cutting"}
              {here &&
                local >= 0 &&
                ` · X ${fixed(here.at[0], 1)} Y ${fixed(here.at[1], 1)} Z ${fixed(here.at[2], 1)} of the part`}
            </>
          )}
        </p>
        {stopped && (
          <p className="finding" role="alert">
            {stopped}{" "}
            <button type="button" className="act quiet" onClick={run}>
              Go on
            </button>
          </p>
        )}
      </section>
      <section className="scroll" aria-label="Operations of the cycle">
        <Table bsPrefix="ledger-table">
          <thead>
            <tr>
              <th>Setup</th>
              <th>Operation</th>
              <th className="n">begins</th>
              <th className="n">s</th>
            </tr>
          </thead>
          <tbody>
            {play.entries.map((one, i) => (
              <tr key={one.operation} className={i === index && !done ? "sel" : undefined}>
                <td>{one.setup}</td>
                <td>
                  <button
                    type="button"
                    className="cell-button"
                    onClick={() => {
                      pause();
                      seek(one.start + one.lead);
                    }}
                  >
                    {one.name}
                  </button>
                  {one.finding && <div className="debit">{one.finding}</div>}
                </td>
                <td className="n">{clock(one.start)}</td>
                <td className="n">{fixed(one.lead + one.seconds, 1)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
    </div>
  );
}

/** Time that runs, and stops where an operation begins that something is wrong with. */
function usePlayer(play: PlayView) {
  const [at, setShown] = useState(0);
  const clockAt = useRef(0);
  const setAt = (to: number) => setShown((clockAt.current = to));
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(10);
  const [stopped, setStopped] = useState<string | null>(null);
  const passed = useRef<string | null>(null); // the operation whose finding was read
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function step(now) {
      const before = clockAt.current;
      const next = Math.min(before + (Math.min(now - last, 200) / 1000) * speed, play.total);
      last = now;
      const wrong = play.entries.find(
        (entry) =>
          entry.finding !== "" &&
          passed.current !== entry.operation &&
          before <= entry.start + entry.lead &&
          next >= entry.start + entry.lead,
      );
      const to = wrong ? wrong.start + wrong.lead : next;
      setShown((clockAt.current = to));
      if (wrong) {
        passed.current = wrong.operation;
        setStopped(`${wrong.name}: ${wrong.finding}`);
      }
      if (wrong || next >= play.total) setPlaying(false);
      else frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, speed, play]);
  return {
    at,
    playing,
    speed,
    setSpeed,
    stopped,
    seek: (to: number) => {
      passed.current = null;
      setStopped(null);
      setAt(Math.max(0, Math.min(play.total, to)));
    },
    run: () => {
      setStopped(null);
      if (at >= play.total - 1e-6) setAt(0);
      setPlaying(true);
    },
    pause: () => setPlaying(false),
  };
}

const stockQuery = (id: number, edition: number, count: number) => ({
  queryKey: ["stock-after", id, edition, count],
  queryFn: () => api.stockAfter(id, count),
  staleTime: Infinity,
});

/** The stock after some operations; the next one's is asked for while this one runs. */
function useStock(count: number, all: number) {
  const { plan } = useDesk();
  const queries = useQueryClient();
  const { plan_id: id, edition } = plan;
  const solid = useQuery({ ...stockQuery(id, edition, count), placeholderData: keepPreviousData });
  useEffect(() => {
    if (count < all) void queries.prefetchQuery(stockQuery(id, edition, count + 1));
  }, [count, all, id, edition, queries]);
  return useMemo(() => (solid.data ? stockMesh(solid.data, []) : null), [solid.data]);
}

/** The stock as it comes from the saw says how much is in sight, whatever is cut away later. */
function useExtent() {
  const { plan } = useDesk();
  const whole = useQuery({
    ...stockQuery(plan.plan_id, plan.edition, 0),
    placeholderData: keepPreviousData,
  });
  return useMemo(() => {
    if (!whole.data) return null;
    const { min, max } = stockMesh(whole.data, []);
    return { min: min as Spot, max: max as Spot };
  }, [whole.data]);
}

type ToolWay = Awaited<ReturnType<typeof api.toolWay>>;

/** Where the tip is at a time; before its first move it stands there. */
function placeAt(way: ToolWay, time: number): { at: Spot; index: number; rapid: boolean } {
  const { times, points } = way;
  const point = (i: number): Spot => [points[3 * i] ?? 0, points[3 * i + 1] ?? 0, points[3 * i + 2] ?? 0];
  let low = 0;
  let high = times.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? 0) <= time) low = middle;
    else high = middle;
  }
  const a = times[low] ?? 0;
  const b = times[high] ?? 0;
  const share = b > a ? Math.max(0, Math.min(1, (time - a) / (b - a))) : 0;
  const from = point(low);
  const to = point(high);
  const at = from.map((v, i) => v + ((to[i] ?? v) - v) * share) as Spot;
  return { at, index: low, rapid: way.rapid[high] ?? true };
}

/** From the front of the machine, a little to the right and from above. */
function looking({ right, above }: PlayView["setups"][number]): { direction: Spot; above: Spot } {
  const [rx, ry, rz] = right;
  const [ux, uy, uz] = above;
  const back: Spot = [uy * rz - uz * ry, uz * rx - ux * rz, ux * ry - uy * rx];
  const direction = [0, 1, 2].map(
    (i) => 0.55 * (right[i] ?? 0) - (back[i] ?? 0) + 0.75 * (above[i] ?? 0),
  ) as Spot;
  return { direction, above: [ux, uy, uz] };
}
