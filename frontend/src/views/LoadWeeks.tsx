/** A machine's weeks: how much of its hours is booked, as bars with their figures. */
import type { Schemas } from "../api/types";
import { Hint } from "./Hint";

export function LoadWeeks({ machine }: { machine: Schemas["MachineLoadView"] }) {
  return (
    <tr>
      <td>{machine.name}</td>
      {machine.weeks.map((week) => {
        const share = week.hours > 0 ? week.booked / week.hours : 0;
        const jobs = week.jobs.map((one) => `${one.job} ${one.hours.toFixed(1)} h`).join(", ");
        const words = `${week.booked.toFixed(1)} of ${week.hours.toFixed(1)} h${jobs && `: ${jobs}`}`;
        return (
          <td key={week.monday} className="n">
            <Hint words={words}>
              <div
                className={week.hours === 0 ? "week closed" : share > 0.9 ? "week full" : "week"}
                role="img"
                aria-label={`${machine.name}, week of ${week.monday}: ${words}`}
              >
                <i style={{ height: `${Math.min(100, 100 * share)}%` }} />
                <b>{week.hours === 0 ? "–" : week.booked < 0.05 ? "" : week.booked.toFixed(0)}</b>
                <small>{week.hours === 0 ? "" : week.hours.toFixed(0)}</small>
              </div>
            </Hint>
          </td>
        );
      })}
    </tr>
  );
}
