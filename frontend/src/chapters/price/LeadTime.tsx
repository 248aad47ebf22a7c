/** When a lot would be ready behind all that is ordered, and what it takes to be ready by a day. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { business } from "../../api/business";
import type { Schemas } from "../../api/types";
import { fixed, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function LeadTime() {
  const { plan } = useDesk();
  const [asked, setAsked] = useState<number | null>(null);
  const [wanted, setWanted] = useState("");
  const quantity = asked !== null && plan.quantities.includes(asked) ? asked : (plan.quantities[0] ?? 1);
  const found = useQuery({
    queryKey: ["lead-time", plan.plan_id, plan.edition, quantity, wanted],
    queryFn: () => business.leadTime(plan.plan_id, quantity, wanted || undefined),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const lead = found.data;
  return (
    <section aria-label="Lead time">
      <h2>
        Lead time <span>behind all that is ordered</span>
      </h2>
      <p className="issued">
        <select
          aria-label="Pieces of the lot"
          value={quantity}
          onChange={(event) => setAsked(Number(event.target.value))}
        >
          {plan.quantities.map((one) => (
            <option key={one} value={one}>
              {one} pieces
            </option>
          ))}
        </select>
        {lead && (
          <span>
            ready <b>{lead.ready}</b>, {lead.weeks} week{lead.weeks === 1 ? "" : "s"}
          </span>
        )}
      </p>
      <p className="issued">
        <label>
          Wanted by <input type="date" value={wanted} onChange={(event) => setWanted(event.target.value)} />
        </label>
      </p>
      {found.error && <p className="finding">{found.error.message}</p>}
      {lead && (
        <p className="soft">
          {lead.machines.map((one) => `${one.name} ${fixed(one.hours, 1)} h`).join(", ")}; stock here on{" "}
          {lead.begins}
        </p>
      )}
      {lead?.rush && <Rush rush={lead.rush} />}
    </section>
  );
}

function Rush({ rush }: { rush: Schemas["RushView"] }) {
  if (rush.possible && rush.hours === 0) return <p>It is ready by {rush.wanted} without hurry.</p>;
  return (
    <>
      {rush.possible ? (
        <p>
          Ready by {rush.wanted} with {fixed(rush.hours, 1)} h of overtime, at most {fixed(rush.a_day, 2)} a
          day: <b>+{moneyText(rush.price)}</b> on the lot.
        </p>
      ) : (
        <p className="finding">
          With all overtime, {fixed(rush.a_day, 2)} h a day, it is ready on {rush.ready}, not by {rush.wanted}
          .
        </p>
      )}
      <p className="soft">
        Put before all others it is ready on {rush.first_ready}
        {rush.pushed.length === 0
          ? ", and no ordered job comes late for it."
          : `; then late: ${rush.pushed.map((one) => `${one.job} by ${one.late} days`).join(", ")}.`}
      </p>
    </>
  );
}

/** Begins a quote of this plan for its job's customer. */
export function QuoteIt() {
  const { plan } = useDesk();
  const navigate = useNavigate();
  const [told, setTold] = useState("");
  const customer = plan.job.customer;
  async function begin() {
    try {
      const line = { plan: plan.plan_id, quantities: plan.quantities, note: "" };
      const quote = await business.begin({ customer: null, customer_name: customer, lines: [line] });
      await navigate(`/quotes/${quote.id}`);
    } catch (error) {
      setTold((error as Error).message);
    }
  }
  return (
    <>
      <button
        type="button"
        className="act quote-it"
        disabled={customer === ""}
        title={customer === "" ? "the job has no customer; give it one in the list of jobs" : undefined}
        onClick={() => void begin()}
      >
        Quote it
      </button>
      {told && <span className="finding">{told}</span>}
    </>
  );
}
