/** Another job's part for a quote: found by words, with the quantities of its plan. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import type { Schemas } from "../../api/types";

type Props = { taken: number[]; onAdd: (line: Schemas["AskedLineBody"]) => void };

export function AddPart({ taken, onAdd }: Props) {
  const [search, setSearch] = useState("");
  const found = useQuery({
    queryKey: ["jobs", "to-quote", search],
    queryFn: () => api.jobs({ search, size: 8 }),
    enabled: search.trim() !== "",
  });
  const rows = found.data?.jobs.filter((row) => !taken.includes(row.plan_id)) ?? [];
  return (
    <div className="add-part">
      <label>
        Add a part{" "}
        <input
          type="search"
          value={search}
          placeholder="number, name or customer"
          onChange={(event) => setSearch(event.target.value)}
        />
      </label>
      {search.trim() !== "" && (
        <ul>
          {rows.map((row) => (
            <li key={row.plan_id}>
              <button
                type="button"
                className="act quiet"
                onClick={() => {
                  onAdd({ plan: row.plan_id, quantities: row.quantities, note: "" });
                  setSearch("");
                }}
              >
                {row.job.number} {row.job.name}
              </button>{" "}
              <small>
                {row.job.customer} · {row.quantities.join(", ")} pieces
              </small>
            </li>
          ))}
          {found.data && rows.length === 0 && <li className="soft">no job is like that</li>}
        </ul>
      )}
    </div>
  );
}
