/** A plan that cannot be opened: why, and the lines of its journal to go back to. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, Refused } from "../api/client";

export function BrokenPlan({ id, error }: { id: number; error: Error }) {
  const broken = error instanceof Refused && error.code === "plan-broken";
  const queries = useQueryClient();
  const [again, setAgain] = useState("");
  const journal = useQuery({
    queryKey: ["journal", id, "broken"],
    queryFn: () => api.journal(id),
    enabled: broken,
  });
  const goTo = (seq: number) =>
    api.goTo(id, journal.data?.edition ?? 0, seq).then(
      () => queries.invalidateQueries({ queryKey: ["plan", id] }),
      (refused: Error) => setAgain(refused.message),
    );
  return (
    <div className="empty broken-plan">
      <p className="debit" role="alert">
        {broken ? `This plan ${error.message}.` : error.message}
      </p>
      {journal.data && (
        <>
          <h2>Its journal</h2>
          <ul>
            {[...journal.data.lines].reverse().map((line) => (
              <li key={line.seq}>
                {line.seq} · {line.words}{" "}
                {line.seq === journal.data.current ? (
                  <span className="soft">where it is</span>
                ) : (
                  <button type="button" className="act" onClick={() => void goTo(line.seq)}>
                    Go back to this
                  </button>
                )}
              </li>
            ))}
          </ul>
          {again && <p role="alert">{again}</p>}
        </>
      )}
      <Link to="/">All jobs</Link>
    </div>
  );
}
