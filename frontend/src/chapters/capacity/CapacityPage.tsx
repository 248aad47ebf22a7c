/** Hours of machines by week, and what ordered jobs take of them; shifts, overtime, days that the shop is closed. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Table } from "react-bootstrap";
import { Link } from "react-router";
import { business, type HoursBody } from "../../api/business";
import { api } from "../../api/client";
import type { Schemas } from "../../api/types";
import { fixed } from "../../shell/numbers";
import { ShopPage } from "../../shell/ShopPage";
import { WordsCell } from "../../shell/WordsCell";
import { LoadWeeks } from "../../views/LoadWeeks";
import { Hours } from "./Hours";

type View = Schemas["CapacityView"];

export function CapacityPage() {
  const queries = useQueryClient();
  const found = useQuery({ queryKey: ["capacity"], queryFn: business.capacity, staleTime: 0 });
  const [told, setTold] = useState("");
  const [all, setAll] = useState(false);
  const view = found.data;
  async function put(more: Partial<HoursBody>) {
    if (!view) return;
    setTold("");
    try {
      queries.setQueryData(["capacity"], await business.keepHours({ ...view.hours, ...more }));
    } catch (error) {
      setTold((error as Error).message);
    }
  }
  async function order(job: number, words: string) {
    setTold("");
    if (!/^[1-9]\d{0,6}$/.test(words))
      return setTold(`“${words}” is no number of pieces; give 1 to 9,999,999.`);
    try {
      await api.editJob(job, { ordered: Number(words) });
    } catch (error) {
      setTold((error as Error).message);
    }
    await queries.invalidateQueries({ queryKey: ["capacity"] });
  }
  return (
    <ShopPage title="Capacity" more={view && `hours booked by ordered jobs, from ${view.today}`}>
      {found.error && <p className="finding">{found.error.message}</p>}
      {told && (
        <p className="finding" role="alert">
          {told}
        </p>
      )}
      {view && (
        <div className="capacity">
          <section aria-label="Load by machine and week">
            <Weeks view={view} all={all} />
            <button type="button" className="act quiet" onClick={() => setAll(!all)}>
              {all ? "Only machines that something is booked on" : "All machines"}
            </button>
            <Lots lots={view.lots} onOrdered={(job, words) => void order(job, words)} />
          </section>
          <Hours view={view} onPut={(more) => void put(more)} />
        </div>
      )}
    </ShopPage>
  );
}

function Weeks({ view, all }: { view: View; all: boolean }) {
  const shown = view.machines.filter((one) => all || one.weeks.some((week) => week.booked > 0));
  if (shown.length === 0)
    return (
      <p className="empty">Nothing is ordered. Win a quote, or set a job’s state to “ordered” in the list.</p>
    );
  return (
    <Table bsPrefix="ledger-table" className="weeks-table">
      <thead>
        <tr>
          <th>Machine</th>
          {shown[0]?.weeks.map((week) => (
            <th key={week.monday} className="n">
              {week.monday.slice(8)}.{week.monday.slice(5, 7)}.
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {shown.map((one) => (
          <LoadWeeks key={one.machine} machine={one} />
        ))}
      </tbody>
    </Table>
  );
}

type LotsProps = { lots: View["lots"]; onOrdered: (job: number, words: string) => void };

function Lots({ lots, onOrdered }: LotsProps) {
  if (lots.length === 0) return null;
  return (
    <>
      <h2>
        Ordered jobs <span>what is due first takes the first free hours</span>
      </h2>
      <Table bsPrefix="ledger-table" className="lots-table">
        <thead>
          <tr>
            <th>Job</th>
            <th>Customer</th>
            <th className="n">pieces</th>
            <th className="n">machine h left</th>
            <th>begins</th>
            <th>ready</th>
            <th>due</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {lots.map((lot) => (
            <tr key={lot.plan}>
              <td>
                <Link to={`/plans/${lot.plan}/price`}>
                  {lot.job} {lot.name}
                </Link>
              </td>
              <td>{lot.customer}</td>
              <td className="n">
                <WordsCell
                  label={`Pieces ordered of ${lot.job}`}
                  value={String(lot.quantity)}
                  longest={7}
                  onCommit={(words) => onOrdered(lot.job_id, words)}
                />
              </td>
              <td className="n">
                {fixed(lot.hours, 1)}
                {lot.made > 0 && <small>{fixed(lot.made, 1)} done</small>}
              </td>
              <td>{lot.begins ?? "–"}</td>
              <td>{lot.ready ?? "–"}</td>
              <td>{lot.due ?? "–"}</td>
              <td className={lot.late > 0 ? "debit" : "soft"}>
                {lot.trouble || (lot.late > 0 ? `${lot.late} day${lot.late === 1 ? "" : "s"} late` : "")}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
