/** A drum of spindles: what each position takes, pieces an hour, and how it is proved out position by position. */
import { Table } from "react-bootstrap";
import { api, type BalancedLoadView, type DrumView } from "../../api/client";
import { FileLink } from "../../shell/FileLink";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function OnDrum({ load, drum }: { load: BalancedLoadView; drum: DrumView }) {
  const { change } = useDesk();
  const slowest = Math.max(...drum.positions);
  return (
    <>
      <p role="status">
        A piece every <b>{fixed(load.cycle, 3)} s</b>, {Math.floor(drum.an_hour)} an hour at{" "}
        {fixed(100 * drum.availability, 0)} % of the hours. The index takes {fixed(drum.index, 1)} s of it,
        the bar’s feed {fixed(drum.feed, 1)} s in the last position.
        {drum.one_feed &&
          " One drive moves both slides of a position: all that is made there has the least feed a turn of it."}
      </p>
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Position</th>
            {drum.positions.map((_, k) => (
              <th key={k} className="n">
                {k + 1}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">takes s</th>
            {drum.positions.map((seconds, k) => (
              <td key={k} className={`n${slowest - seconds < 0.001 ? " slowest" : ""}`}>
                {seconds ? fixed(seconds, 2) : "–"}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">stands s</th>
            {drum.positions.map((seconds, k) => (
              <td key={k} className="n">
                {fixed(slowest - seconds, 2)}
              </td>
            ))}
          </tr>
        </tbody>
      </Table>
      <p className="cures">
        <button
          type="button"
          className="act"
          onClick={() => void change({ change: "spread-out", load: load.load })}
        >
          Spread over the positions
        </button>
      </p>
      <Proving load={load} drum={drum} />
    </>
  );
}

/** The first position with the cut-off, then one more each time. */
function Proving({ load, drum }: { load: BalancedLoadView; drum: DrumView }) {
  const { plan } = useDesk();
  const setup = load.setups[0] ?? "";
  const used = drum.positions.flatMap((seconds, k) => (seconds > 0 ? [k + 1] : []));
  const last = drum.positions.length;
  const steps = used.filter((one) => one !== last).map((_, k, all) => [...all.slice(0, k + 1), last]);
  return (
    <>
      <h2>
        Proving out <span>one position more each time, and the cut-off; the plan stays</span>
      </h2>
      {steps.map((positions) => (
        <p key={positions.length} className="proving">
          Position{positions.length > 1 ? "s" : ""} {positions.join(", ")}:{" "}
          {programsOf(load, positions).map((carriage, k) => (
            <FileLink key={carriage} href={api.partFile(plan.plan_id, setup, { positions }, k + 1)}>
              {carriage}
            </FileLink>
          ))}
        </p>
      ))}
    </>
  );
}

function programsOf(load: BalancedLoadView, positions: number[]): string[] {
  return load.lanes
    .filter((lane) => lane.calls.length > 0 && positions.includes(lane.position))
    .map((lane) => lane.carriage);
}
