/** The cycle once more: tool and stock over what holds it, at any speed, up to whatever is wrong. */
import { Form, Table } from "react-bootstrap";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type PlayView } from "../../api/client";
import { clock, fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { PictureUnderWay } from "../../shell/UnderWay";
import { stockQuery } from "../../shell/stockQuery";
import { Model3D, type Spot } from "../../views/Model3D";
import { fromTheFront } from "../../views/sight";
import { after, FixtureBody, Posed } from "../../views/PlayScene";
import { stockMesh } from "../../views/stockMesh";
import { Others } from "./Others";
import { ToolAt, useToolAt } from "./ToolAt";

const SPEEDS = [1, 2, 5, 10, 30, 100];
const MOST_LISTED = 400;
const keyOf = (entry: PlayView["entries"][number]) => `${entry.operation} ${entry.place}`;
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

/** Which operations run at a time, the first of them first; between two the one that was last. */
function runningAt(play: PlayView, at: number): number[] {
  const begun = play.entries.flatMap((entry, i) => (entry.start <= at + 1e-9 ? [i] : []));
  const running = begun.filter((i) => {
    const entry = play.entries[i];
    return entry && at < entry.start + entry.lead + entry.seconds;
  });
  return running.length > 0 ? running : begun.slice(-1);
}

function Player({ play, first }: { play: PlayView; first: PlayView["entries"][number] }) {
  const { at, seek, playing, run, pause, speed, setSpeed, stopped } = usePlayer(play);
  const running = runningAt(play, at);
  const index = running[0] ?? 0;
  const entry = play.entries[index] ?? first;
  const others = running.slice(1).flatMap((i) => play.entries[i] ?? []);
  const local = at - entry.start - entry.lead;
  const done = at >= play.total - 1e-6;
  const count = done ? entry.after : entry.before;
  const setup = play.setups.find((one) => one.setup === entry.setup);
  const load = play.loads.find((one) => one.setups.includes(entry.setup));
  const here3d = load?.poses.find((one) => one.place === entry.place);
  const mesh = useStock(count, entry.after);
  const alone = useExtent();
  const extent = load ? { min: load.min as Spot, max: load.max as Spot } : alone;
  const { here } = useToolAt(entry, at);
  const tools = done
    ? null
    : [entry, ...others].map((one) => <ToolAt key={keyOf(one)} entry={one} at={at} />);
  const from = useSight(load, setup);
  const several = play.entries.some((one) => one.place !== "");
  const listed = play.entries.length <= MOST_LISTED ? play.entries : onePiece(play.entries, entry.place);
  return (
    <div className="play">
      <section aria-label="The cycle in 3D">
        {mesh && extent && from ? (
          <Model3D
            mesh={mesh}
            pose={here3d && after(here3d.brought, here3d.matrix)}
            extent={extent}
            tones={NO_TONES}
            from={from}
            share={load ? 0.72 : 0.55}
            label="The cycle"
            onPick={() => undefined}
            onHover={() => undefined}
            scene={
              load && here3d && setup ? (
                <Posed matrix={here3d.brought}>
                  <Others play={play} load={load} index={index} done={done} />
                  <Posed matrix={here3d.matrix}>{tools}</Posed>
                </Posed>
              ) : (
                <>
                  {setup && <FixtureBody solid={setup.fixture} />}
                  {tools}
                </>
              )
            }
          />
        ) : (
          <PictureUnderWay words="Cutting the stock" />
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
              <b>{entry.setup}</b> {entry.place && `piece ${entry.place}, `}
              {entry.name}, {entry.tool} ·{" "}
              {local < 0 ? "on its way: change, rapid, start" : here?.rapid ? "rapid" : "cutting"}
              {here &&
                local >= 0 &&
                ` · X ${fixed(here.at[0], 1)} Y ${fixed(here.at[1], 1)} Z ${fixed(here.at[2], 1)} of the part`}
              {others.map((one) => ` · at the same time ${one.name}, ${one.tool}`)}
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
              {several && <th className="n">Piece</th>}
              <th>Operation</th>
              <th className="n">begins</th>
              <th className="n">s</th>
            </tr>
          </thead>
          <tbody>
            {listed.map((one) => (
              <tr
                key={`${one.operation} ${one.place}`}
                className={!done && (one === entry || others.includes(one)) ? "sel" : undefined}
                ref={one === entry ? intoView : undefined}
              >
                <td>{one.setup}</td>
                {several && <td className="n">{one.place}</td>}
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

const intoView = (row: HTMLTableRowElement | null) => row?.scrollIntoView({ block: "nearest" });

/** Of very many entries those of the piece that is worked on. */
const onePiece = (entries: PlayView["entries"], place: string) =>
  entries.filter((one) => one.place === place || one.place === "");

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
          passed.current !== keyOf(entry) &&
          before <= entry.start + entry.lead &&
          next >= entry.start + entry.lead,
      );
      const to = wrong ? wrong.start + wrong.lead : next;
      setShown((clockAt.current = to));
      if (wrong) {
        passed.current = keyOf(wrong);
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

/** The stock after some operations; the next one's is asked for while this one runs. */
function useStock(count: number, next: number) {
  const { plan } = useDesk();
  const queries = useQueryClient();
  const { plan_id: id, edition } = plan;
  const solid = useQuery({ ...stockQuery(id, edition, count), placeholderData: keepPreviousData });
  useEffect(() => {
    if (count < next) void queries.prefetchQuery(stockQuery(id, edition, next));
  }, [count, next, id, edition, queries]);
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

function useSight(
  load: PlayView["loads"][number] | undefined,
  setup: PlayView["setups"][number] | undefined,
) {
  return useMemo(() => (load ? fromTheFront(load) : setup ? fromTheFront(setup) : undefined), [load, setup]);
}
