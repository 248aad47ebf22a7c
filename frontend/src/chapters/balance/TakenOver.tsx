/** How the counter spindle takes a piece over: each step with its seconds, what it grips, what stays free. */
import { Table } from "react-bootstrap";
import type { BalancedLoadView, HandoverView } from "../../api/client";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";

const STEPS: [
  keyof HandoverView & ("eject" | "synchronise" | "approach" | "close" | "pull" | "cut_off" | "away"),
  string,
][] = [
  ["eject", "The finished piece out of it"],
  ["synchronise", "It turns with the main spindle"],
  ["approach", "Over the piece, the last 5 slowly"],
  ["close", "It closes"],
  ["pull", "The main collet opens, the bar comes on, it closes"],
  ["cut_off", "The blade cuts off"],
  ["away", "Back to where it works"],
];

export function TakenOver({ handover, load }: { handover: HandoverView; load: BalancedLoadView }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const steps = STEPS.filter(([key]) => key !== "pull" || handover.by > 0);
  return (
    <>
      <h2>
        Pick-off <span>the counter spindle takes the piece over, once a cycle</span>
      </h2>
      <Table bsPrefix="ledger-table" className="taken-over">
        <tbody>
          {steps.map(([key, words]) => (
            <tr key={key}>
              <th scope="row">{words}</th>
              <td className="n">{fixed(handover[key], 2)} s</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">In all</th>
            <td className="n">
              {fixed(
                steps.reduce((sum, [key]) => sum + handover[key], 0),
                2,
              )}{" "}
              s
            </td>
          </tr>
        </tfoot>
      </Table>
      <p>
        It closes on {handover.grips}, and {lengthText(handover.between, unit)} {unit} stay free to the blade;
        its mount comes to Z {lengthText(handover.at, unit, 1)}.
      </p>
      {handover.by > 0 && (
        <p>
          It pulls the bar on by {lengthText(handover.by, unit)} {unit}, and the blade follows. Nothing feeds
          the bar but the next one, where it ends.{" "}
          <button
            type="button"
            className="act quiet"
            onClick={() => void change({ change: "pull-bar", load: load.load, on: false })}
          >
            Feed it again
          </button>
        </p>
      )}
      <p className="cures">
        <button
          type="button"
          className="act quiet"
          onClick={() => void change({ change: "load-apart", load: load.load })}
        >
          Each end by itself again
        </button>
      </p>
    </>
  );
}
