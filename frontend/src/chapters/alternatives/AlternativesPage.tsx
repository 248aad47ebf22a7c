/** The plans of a job: which one it is made by, several beside one another, and all that could be made. */
import { useState } from "react";
import { Form, Table } from "react-bootstrap";
import { Link } from "react-router";
import { alternatives } from "../../api/alternatives";
import type { AlternativeView } from "../../api/client";
import { useAlternatives, useFork, useTold } from "../../shell/alternatives";
import { clock, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Combinations } from "./Combinations";
import { SideBySide } from "./SideBySide";

const MOST = 5;

export function AlternativesPage() {
  const { plan } = useDesk();
  const found = useAlternatives();
  const fork = useFork();
  const [marked, setMarked] = useState<number[] | null>(null);
  const [away, setAway] = useState(false);
  if (!found.data) return <p className="empty">{found.error?.message ?? "Looking up the plans …"}</p>;
  const plans = found.data.plans;
  const inSight = plans.filter((one) => !one.put_away);
  const hidden = plans.length - inSight.length;
  const compared = (marked ?? inSight.slice(0, MOST).map((one) => one.id)).filter((id) =>
    plans.some((one) => one.id === id),
  );
  return (
    <div className="one-column alternatives-page">
      <h1>
        Alternatives <small>several plans of one job; it is made by one of them, and the others stay</small>
      </h1>
      <Table bsPrefix="ledger-table" className="plans-table">
        <thead>
          <tr>
            <th>Beside</th>
            <th>Plan</th>
            <th>Comes from</th>
            <th className="n">cycle, min:s</th>
            <th className="n">each</th>
            <th>Findings</th>
            <th>The job is made by</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {plans
            .filter((one) => away || !one.put_away)
            .map((one) => (
              <PlanRow
                key={one.id}
                one={one}
                here={one.id === plan.plan_id}
                marked={compared.includes(one.id)}
                full={compared.length >= MOST}
                onMark={(on) =>
                  setMarked(on ? [...compared, one.id] : compared.filter((id) => id !== one.id))
                }
              />
            ))}
        </tbody>
      </Table>
      <p className="cures">
        <button
          type="button"
          className="act"
          disabled={fork.isPending}
          onClick={() => fork.mutate({ name: `${plan.plan_name}, changed`.slice(0, 80) })}
        >
          New plan from this one
        </button>
        {hidden > 0 && (
          <button type="button" className="act quiet" onClick={() => setAway(!away)}>
            {away ? "Hide what is put away" : `Show ${hidden} put away`}
          </button>
        )}
        {fork.error && <span className="debit">{fork.error.message}</span>}
      </p>
      {compared.length > 1 ? (
        <SideBySide
          plans={compared}
          stamp={plans.map((one) => `${one.id}:${one.lines}:${one.name}`).join()}
        />
      ) : (
        <p className="soft">
          Mark two to five plans to see them beside one another, with the quantities at which one overtakes
          another.
        </p>
      )}
      <Combinations />
    </div>
  );
}

function PlanRow(props: {
  one: AlternativeView;
  here: boolean;
  marked: boolean;
  full: boolean;
  onMark: (on: boolean) => void;
}) {
  const { one, here, marked, full, onMark } = props;
  const told = useTold();
  const [refused, setRefused] = useState("");
  async function set(call: Promise<unknown>) {
    try {
      await call;
      setRefused("");
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error));
    }
    told();
  }
  return (
    <tr className={here ? "sel" : undefined}>
      <td>
        <input
          type="checkbox"
          aria-label={`Put ${one.name} beside the others`}
          checked={marked}
          disabled={!marked && full}
          onChange={(event) => onMark(event.target.checked)}
        />
      </td>
      <td>
        <NameCell
          key={one.name}
          name={one.name}
          onName={(name) => void set(alternatives.edit(one.id, { name }))}
        />
        {refused && <small className="debit">{refused}</small>}
      </td>
      <td className="soft">
        {one.origin || "the job's first plan"}
        {one.chosen_at && (
          <small>
            chosen by {one.chosen_by}, {one.chosen_at.slice(0, 10)}
          </small>
        )}
      </td>
      <td className="n">{one.cycle === null ? "–" : clock(one.cycle)}</td>
      <td className="n">
        {one.each === null ? "–" : moneyText(one.each)}
        {one.quantity !== null && <small> at {one.quantity}</small>}
      </td>
      <td>
        {one.trouble ? (
          <span className="debit">{one.trouble}</span>
        ) : one.errors > 0 ? (
          <span className="debit">{one.errors} to solve</span>
        ) : one.warnings > 0 ? (
          <span className="caution">{one.warnings} to look at</span>
        ) : (
          "none"
        )}
        {one.fresh ? (
          !one.followed && <small>stock not followed yet</small>
        ) : (
          <small>being computed again</small>
        )}
      </td>
      <td>
        {one.chosen ? (
          <b>this plan</b>
        ) : (
          <button
            type="button"
            className="act quiet"
            aria-label={`take it: ${one.name}`}
            onClick={() => void set(alternatives.choose(one.id))}
          >
            take it
          </button>
        )}
      </td>
      <td>
        {here ? (
          "open"
        ) : (
          <Link className="act quiet" to={`/plans/${one.id}/alternatives`} aria-label={`open ${one.name}`}>
            open
          </Link>
        )}{" "}
        {!one.chosen && (
          <button
            type="button"
            className="act quiet"
            aria-label={`${one.put_away ? "bring back" : "put away"} ${one.name}`}
            onClick={() => void set(alternatives.edit(one.id, { put_away: !one.put_away }))}
          >
            {one.put_away ? "bring back" : "put away"}
          </button>
        )}
      </td>
    </tr>
  );
}

function NameCell({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [draft, setDraft] = useState(name);
  return (
    <Form.Control
      bsPrefix="entry"
      aria-label={`Name of ${name}`}
      value={draft}
      maxLength={80}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => (draft.trim() && draft.trim() !== name ? onName(draft.trim()) : setDraft(name))}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setDraft(name);
      }}
    />
  );
}
