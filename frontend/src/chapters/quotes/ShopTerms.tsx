/** What the shop says of itself on a quote, its currency, how it rounds, the least lot. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { business } from "../../api/business";
import type { Schemas } from "../../api/types";
import { Field, WordsCell } from "../../shell/WordsCell";

type Terms = Schemas["TermsBody"];

export function ShopTerms() {
  const queries = useQueryClient();
  const found = useQuery({ queryKey: ["terms"], queryFn: business.terms });
  const [told, setTold] = useState("");
  const terms = found.data;
  if (!terms) return <p className="empty">{found.error?.message ?? "Opening …"}</p>;
  async function put(more: Partial<Terms>) {
    setTold("");
    try {
      queries.setQueryData(["terms"], await business.keepTerms({ ...(terms as Terms), ...more }));
      await queries.invalidateQueries({ queryKey: ["quotes"] });
    } catch (error) {
      setTold((error as Error).message);
    }
  }
  const lines = (words: string) => words.split("\n").filter((one) => one.trim() !== "");
  return (
    <div className="shop-terms">
      {told && (
        <p className="finding" role="alert">
          {told}
        </p>
      )}
      <Field words="Name of the shop">
        <WordsCell label="Name of the shop" value={terms.name} onCommit={(name) => void put({ name })} />
      </Field>
      <Field words="Address, a line each">
        <WordsCell
          label="Address of the shop"
          value={terms.address.join("\n")}
          lines={3}
          longest={700}
          onCommit={(words) => void put({ address: lines(words) })}
        />
      </Field>
      <Field words="Contact">
        <WordsCell
          label="Contact of the shop"
          value={terms.contact}
          onCommit={(contact) => void put({ contact })}
        />
      </Field>
      <Field words="Currency">
        <WordsCell
          label="Currency of the shop"
          value={terms.currency}
          longest={3}
          onCommit={(currency) => void put({ currency })}
        />
      </Field>
      <Field words={`Other currencies, how much of each one ${terms.currency} is`}>
        <WordsCell
          label="Other currencies"
          value={terms.rates.map(([code, rate]) => `${code} ${rate}`).join("\n")}
          lines={4}
          longest={600}
          onCommit={(words) => void put({ rates: lines(words).map(rateOf) })}
        />
      </Field>
      <Field words="A price each is rounded to">
        <WordsCell
          label="A price each is rounded to"
          value={terms.step}
          longest={12}
          onCommit={(step) => void put({ step: plain(step) })}
        />
      </Field>
      <Field words={`The least that a lot is made for, ${terms.currency}`}>
        <WordsCell
          label="The least that a lot is made for"
          value={terms.minimum_lot}
          longest={12}
          onCommit={(words) => void put({ minimum_lot: plain(words) })}
        />
      </Field>
      <Field words="A quote is valid for, days">
        <WordsCell
          label="Days that a quote is valid"
          value={String(terms.valid_days)}
          longest={4}
          onCommit={(words) => void put({ valid_days: Number(words) || 0 })}
        />
      </Field>
      <Field words="Payment">
        <WordsCell label="Payment" value={terms.payment} onCommit={(payment) => void put({ payment })} />
      </Field>
      <Field words="Delivery">
        <WordsCell label="Delivery" value={terms.delivery} onCommit={(delivery) => void put({ delivery })} />
      </Field>
      <Field words="Not included, a line each">
        <WordsCell
          label="Not included"
          value={terms.not_included.join("\n")}
          lines={4}
          longest={3000}
          onCommit={(words) => void put({ not_included: lines(words) })}
        />
      </Field>
    </div>
  );
}

const plain = (words: string) => words.replace(",", ".").trim();

/** “USD 1.08”: a code and a number; anything else is sent as it is, and refused with its reason. */
function rateOf(line: string): [string, string] {
  const [code = "", rate = ""] = line.trim().split(/\s+/);
  return [code.toUpperCase(), plain(rate)];
}
