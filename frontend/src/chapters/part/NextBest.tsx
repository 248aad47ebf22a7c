/** Beside a plan that nobody has worked on yet: the next best machines, each one click away. */
import { useBeginnings } from "../../shell/beginnings";
import { signed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

const BESIDE = 3;

export function NextBest() {
  const { plan, beginAgain } = useDesk();
  const fresh = plan.lines === 1;
  const found = useBeginnings(fresh);
  if (!fresh) return null;
  if (!found.data)
    return (
      <p className="next-best soft" role="status">
        {found.error ? found.error.message : "Comparing the machines …"}
      </p>
    );
  const now = found.data.begun.find((one) => one.current);
  const others = found.data.begun.filter((one) => !one.current).slice(0, BESIDE);
  if (others.length === 0) return null;
  return (
    <p className="next-best">
      {now ? (
        <>
          Begun on <b>{now.name}</b>, {now.each} each.{" "}
        </>
      ) : null}
      Next best:{" "}
      {others.map((one) => (
        <span key={one.name}>
          <button
            type="button"
            className="act quiet"
            title={one.left.length > 0 ? one.left.join("\n") : `${one.setups} setups, nothing left to solve`}
            aria-label={`Begin there: ${one.name}`}
            onClick={() => void beginAgain(one.machines)}
          >
            {one.name}
          </button>{" "}
          {one.each}
          {now && ` (${signed(Number(one.each) - Number(now.each), 2)})`}
          {one.left.length > 0 && `, ${one.left.length} to solve`}
        </span>
      ))}
    </p>
  );
}
