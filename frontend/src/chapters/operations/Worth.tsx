/** What is most worth working on: each entry with what a piece gains when it is taken to its limit. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { api, type Change } from "../../api/client";
import { fixed, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function Worth() {
  const { plan, change, busy } = useDesk();
  const found = useQuery({
    queryKey: ["worth", plan.plan_id, plan.edition],
    queryFn: () => api.worth(plan.plan_id),
    staleTime: Infinity,
  });
  if (found.error) return <p className="finding">{found.error.message}</p>;
  if (!found.data) return <p className="empty">Trying out what could be faster …</p>;
  if (found.data.length === 0)
    return <p className="empty">Everything runs at its limit. Nothing here makes it faster.</p>;
  const take = (wanted: Change, label: string) => (
    <button
      type="button"
      className="act quiet"
      disabled={busy}
      aria-label={label}
      onClick={() => void change(wanted)}
    >
      Take
    </button>
  );
  return (
    <div className="scroll wide">
      <p className="soft">
        Each entry by itself: taken to where something stops it, and where it costs least. Money is a piece at{" "}
        {plan.quantities[0]}, the tools that wear out sooner counted in.
      </p>
      <Table bsPrefix="ledger-table" className="worth-table">
        <thead>
          <tr>
            <th colSpan={4} />
            <th colSpan={4}>At its limit</th>
            <th colSpan={4}>Where it costs least</th>
          </tr>
          <tr>
            <th className="n" />
            <th>Entry</th>
            <th>Setup</th>
            <th className="n">takes s</th>
            <th className="n">gains s</th>
            <th className="n">gains each</th>
            <th className="n">tool's life, min</th>
            <th />
            <th>speed, feed</th>
            <th className="n">gains s</th>
            <th className="n">gains each</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {found.data.map((entry, i) => (
            <tr key={`${entry.operation} ${entry.title}`}>
              <td className="n soft">{i + 1}</td>
              <td>
                {entry.title}
                <div className="worth-stop">{entry.stop}</div>
              </td>
              <td>{entry.setup}</td>
              <td className="n">{fixed(entry.seconds, 1)}</td>
              <td className="n">
                <b>{fixed(entry.saving, 1)}</b>
              </td>
              <td className={Number(entry.each) < 0 ? "n debit" : "n"}>{moneyText(entry.each)}</td>
              <td className="n">
                {entry.life_before === null || entry.life_after === null
                  ? "–"
                  : `${fixed(entry.life_before, 0)} → ${fixed(entry.life_after, 0)}`}
              </td>
              <td>{take(entry.change, `Take to its limit: ${entry.title}`)}</td>
              {entry.cheapest ? (
                <>
                  <td>
                    {percent(entry.cheapest.speed)}, {percent(entry.cheapest.feed)}
                  </td>
                  <td className="n">{fixed(entry.cheapest.saving, 1)}</td>
                  <td className="n">
                    <b>{moneyText(entry.cheapest.each)}</b>
                  </td>
                  <td>{take(entry.cheapest.change, `Take where it costs least: ${entry.title}`)}</td>
                </>
              ) : (
                <td colSpan={4} className="soft">
                  {entry.operation ? "as it is" : "–"}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}

const percent = (share: number) => `${Math.round(100 * share)} %`;
