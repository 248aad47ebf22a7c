/** What was set by hand the last time, for the same operation with the same tool in the same material. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import { useDesk } from "../../shell/plan";

export function LastUsed() {
  const { plan, change } = useDesk();
  const [open, setOpen] = useState(false);
  const found = useQuery({
    queryKey: ["last-used", plan.plan_id, plan.edition],
    queryFn: () => api.lastUsed(plan.plan_id),
    staleTime: Infinity,
  });
  const entries = found.data ?? [];
  if (entries.length === 0) return null;
  const take = (edits: typeof entries) =>
    void change({
      change: "take-values",
      edits: edits.map((entry) => entry.edit),
    });
  const jobs = [...new Set(entries.map((entry) => entry.source))].join(", ");
  return (
    <div className="last-used">
      <p>
        {entries.length === 1 ? "One operation runs" : `${entries.length} operations run`} otherwise on {jobs}
        , with the same tool in the same material.{" "}
        <button type="button" className="act" onClick={() => take(entries)}>
          Take {entries.length === 1 ? "its values" : "all these values"}
        </button>{" "}
        <button type="button" className="act quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Hide them" : "Show them"}
        </button>
      </p>
      {open && (
        <Table bsPrefix="ledger-table">
          <tbody>
            {entries.map((entry) => (
              <tr key={entry.operation}>
                <td>{entry.name}</td>
                <td>{entry.words}</td>
                <td>{entry.source}</td>
                <td>
                  <button
                    type="button"
                    className="act quiet"
                    aria-label={`Take for ${entry.name}`}
                    onClick={() => take([entry])}
                  >
                    Take
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </div>
  );
}
