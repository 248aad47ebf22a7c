/** What became of an issued quote: ordered how many of what, or lost for which reason. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { business } from "../../api/business";
import type { Schemas } from "../../api/types";

type Props = {
  offer: Schemas["OfferView"];
  busy: boolean;
  onDecide: (body: Schemas["Decision"]) => void;
};

export function Decide({ offer, busy, onDecide }: Props) {
  const reasons = useQuery({ queryKey: ["quotes"], queryFn: business.quotes }).data?.reasons ?? [];
  const [pieces, setPieces] = useState<Record<number, string>>(() =>
    Object.fromEntries(offer.lines.map((line) => [line.plan, String(line.breaks[0]?.quantity ?? "")])),
  );
  const [reason, setReason] = useState("");
  const [words, setWords] = useState("");
  const ordered = offer.lines
    .map((line) => ({ plan: line.plan, quantity: Number(pieces[line.plan]?.trim() || 0) }))
    .filter((one) => one.quantity > 0);
  const wrong = Object.values(pieces).some((one) => !/^\s*\d{0,7}\s*$/.test(one));
  return (
    <div className="decide">
      <fieldset>
        <legend>Ordered</legend>
        {offer.lines.map((line) => (
          <label key={line.plan}>
            {line.job}{" "}
            <input
              className="short"
              inputMode="numeric"
              aria-label={`Pieces ordered of ${line.job}`}
              value={pieces[line.plan] ?? ""}
              onChange={(event) => setPieces({ ...pieces, [line.plan]: event.target.value })}
            />
          </label>
        ))}
        <button
          type="button"
          className="act main"
          disabled={busy || wrong || ordered.length === 0}
          onClick={() => onDecide({ state: "won", ordered, reason: "", words: "" })}
        >
          Won
        </button>
      </fieldset>
      <fieldset>
        <legend>Lost for</legend>
        <select aria-label="Lost for" value={reason} onChange={(event) => setReason(event.target.value)}>
          <option value="">choose a reason</option>
          {reasons.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        <input
          aria-label="More of why"
          placeholder="more of it"
          maxLength={600}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <button
          type="button"
          className="act"
          disabled={busy || reason === ""}
          onClick={() => onDecide({ state: "lost", ordered: [], reason, words })}
        >
          Lost
        </button>
      </fieldset>
    </div>
  );
}
