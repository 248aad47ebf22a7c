/** A bar divided by time category, each with a tone and a hatch of its own. */
import type { SecondsView } from "../api/client";
import { Hint } from "./Hint";

export function TimeBar({ seconds }: { seconds: SecondsView[] }) {
  const total = seconds.reduce((sum, one) => sum + one.seconds, 0);
  const words = seconds.map((one) => `${one.category} ${one.seconds.toFixed(1)} s`).join(", ");
  return (
    <div className="timebar" role="img" aria-label={`Time of a piece: ${words}`}>
      {total > 0 &&
        seconds
          .filter((one) => one.seconds > 0)
          .map((one) => (
            <Hint
              key={one.category}
              words={`${one.category} ${one.seconds.toFixed(1)} s, ${Math.round((100 * one.seconds) / total)} %`}
            >
              <div
                className={`tone t-${one.category.replace(" ", "-")}`}
                style={{ width: `${(100 * one.seconds) / total}%` }}
              />
            </Hint>
          ))}
    </div>
  );
}
