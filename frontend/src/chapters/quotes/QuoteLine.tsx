/** A part of a quote: the quantities that it is offered at, and what the planner is to know of them. */
import { Table } from "react-bootstrap";
import { Link } from "react-router";
import type { QuoteBody } from "../../api/business";
import type { Schemas } from "../../api/types";
import { fixed, moneyText } from "../../shell/numbers";
import { WordsCell } from "../../shell/WordsCell";

type Props = {
  line: Schemas["OfferLineView"];
  currency: string;
  ordered: number | null;
  /** of a draft, what it asks for */
  asked: QuoteBody | null;
  busy: boolean;
  onPut: (more: Partial<QuoteBody>) => void;
};

export function QuoteLine({ line, currency, ordered, asked, busy, onPut }: Props) {
  const put = (more: Partial<Schemas["AskedLineBody"]>) =>
    onPut({ lines: asked?.lines.map((one) => (one.plan === line.plan ? { ...one, ...more } : one)) ?? [] });
  return (
    <section className="quote-line">
      <h2>
        <Link to={`/plans/${line.plan}/price`}>
          {line.job} {line.name}
        </Link>{" "}
        <span>
          revision {line.revision} · {line.material} · plan “{line.plan_name}”, version {line.version}
        </span>
      </h2>
      {asked && (
        <p className="issued">
          <label>
            Quantities{" "}
            <WordsCell
              label={`Quantities of ${line.job}`}
              value={line.breaks.map((one) => one.quantity).join(", ")}
              disabled={busy}
              onCommit={(words) => put({ quantities: quantities(words) })}
            />
          </label>
          <button
            type="button"
            className="act quiet"
            disabled={busy}
            aria-label={`Leave out ${line.job}`}
            onClick={() => onPut({ lines: asked.lines.filter((one) => one.plan !== line.plan) })}
          >
            Leave out
          </button>
        </p>
      )}
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th className="n">from pieces</th>
            <th className="n">each {currency}</th>
            <th className="n">lot {currency}</th>
            <th className="n">margin</th>
            <th>ready</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {line.breaks.map((one) => (
            <tr key={one.quantity}>
              <td className="n">{one.quantity}</td>
              <td className="n">
                <b>{moneyText(one.each)}</b>
              </td>
              <td className="n">{moneyText(one.lot)}</td>
              <td className={one.margin < 0 ? "n debit" : "n"}>{fixed(100 * one.margin, 1)} %</td>
              <td>
                {one.ready}, {one.weeks} week{one.weeks === 1 ? "" : "s"}
              </td>
              <td className="soft">{one.raised && "raised to the least lot"}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {line.cheaper.map((one) => (
        <p key={one.than} className="soft">
          From {one.quantity} pieces on, {one.than} cost less in all.
        </p>
      ))}
      {ordered !== null && (
        <p>
          <b>{ordered} ordered.</b>
        </p>
      )}
      {line.missing.map((title) => (
        <p key={title} className="finding">
          Not in this price: {title}
        </p>
      ))}
      {asked ? (
        <label className="line-note">
          Note to the part{" "}
          <WordsCell
            label={`Note to ${line.job}`}
            value={line.note}
            longest={600}
            onCommit={(note) => put({ note })}
          />
        </label>
      ) : (
        line.note && <p>{line.note}</p>
      )}
    </section>
  );
}

/** Whole numbers, however they are parted; what is none becomes 0 and is refused with its reason. */
export function quantities(words: string): number[] {
  return words
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map((word) => (/^\d{1,7}$/.test(word) ? Number(word) : 0));
}
