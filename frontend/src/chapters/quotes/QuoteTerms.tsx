/** Who a quote goes to and on what terms; what a draft leaves empty is the customer's, else the shop's. */
import { useQuery } from "@tanstack/react-query";
import { business, type QuoteBody, type QuoteView } from "../../api/business";
import { Field, WordsCell } from "../../shell/WordsCell";

type Props = { quote: QuoteView; draft: boolean; onPut: (more: Partial<QuoteBody>) => void };

export function QuoteTerms({ quote, draft, onPut }: Props) {
  const customers = useQuery({ queryKey: ["customers"], queryFn: business.customers, enabled: draft });
  const { asked, offer } = quote;
  if (!draft)
    return (
      <section aria-label="Terms" className="quote-terms">
        <h2>Terms as issued</h2>
        <dl>
          <dt>Issued</dt>
          <dd>{offer?.issued}</dd>
          <dt>Valid until</dt>
          <dd>{offer?.until}</dd>
          <dt>Payment</dt>
          <dd>{offer?.payment}</dd>
          <dt>Delivery</dt>
          <dd>{offer?.delivery}</dd>
          <dt>Not included</dt>
          <dd>{offer?.not_included.join("; ")}</dd>
          {offer?.words && (
            <>
              <dt>Words</dt>
              <dd>{offer.words}</dd>
            </>
          )}
          {quote.reason_words && (
            <>
              <dt>Why lost</dt>
              <dd>{quote.reason_words}</dd>
            </>
          )}
        </dl>
      </section>
    );
  return (
    <section aria-label="Terms" className="quote-terms">
      <h2>
        Terms <span>empty is the customer’s, else the shop’s</span>
      </h2>
      <label>
        Customer
        <select value={asked.customer} onChange={(event) => onPut({ customer: Number(event.target.value) })}>
          {(customers.data?.customers ?? [quote.customer]).map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <Field words="Valid for, days">
        <WordsCell
          label="Days that it is valid"
          value={asked.valid_days === null ? "" : String(asked.valid_days)}
          otherwise={offer ? `until ${offer.until}` : ""}
          longest={4}
          onCommit={(words) => onPut({ valid_days: words === "" ? null : Number(words) || 0 })}
        />
      </Field>
      <Field words="Payment">
        <WordsCell
          label="Payment of this quote"
          value={asked.payment ?? ""}
          otherwise={offer?.payment}
          onCommit={(payment) => onPut({ payment })}
        />
      </Field>
      <Field words="Delivery">
        <WordsCell
          label="Delivery of this quote"
          value={asked.delivery ?? ""}
          otherwise={offer?.delivery}
          onCommit={(delivery) => onPut({ delivery })}
        />
      </Field>
      <Field words="Not included, a line each">
        <WordsCell
          label="Not included in this quote"
          value={asked.not_included?.join("\n") ?? ""}
          otherwise={offer?.not_included.join("\n")}
          lines={4}
          longest={3000}
          onCommit={(words) =>
            onPut({
              not_included: words === "" ? null : words.split("\n").filter((one) => one.trim() !== ""),
            })
          }
        />
      </Field>
      <Field words="Words above the parts">
        <WordsCell
          label="Words above the parts"
          value={asked.words ?? ""}
          lines={3}
          longest={2000}
          onCommit={(words) => onPut({ words })}
        />
      </Field>
    </section>
  );
}
