/** A quote: a draft with its prices as they are now, or as it was issued. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { business, type QuoteBody, type QuoteView } from "../../api/business";
import { ShopPage } from "../../shell/ShopPage";
import { AddPart } from "./AddPart";
import { Decide } from "./Decide";
import { QuoteLine } from "./QuoteLine";
import { STATES } from "./QuotesPage";
import { QuoteTerms } from "./QuoteTerms";

export function QuotePage() {
  const id = Number(useParams().id);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const found = useQuery({ queryKey: ["quote", id], queryFn: () => business.quote(id), staleTime: 0 });
  const [told, setTold] = useState("");
  const [busy, setBusy] = useState(false);
  const quote = found.data;

  async function make(what: () => Promise<QuoteView>): Promise<QuoteView | null> {
    setTold("");
    setBusy(true);
    try {
      const next = await what();
      queries.setQueryData(["quote", next.id], next);
      for (const key of ["quotes", "jobs", "capacity"]) void queries.invalidateQueries({ queryKey: [key] });
      return next;
    } catch (error) {
      setTold((error as Error).message);
      return null;
    } finally {
      setBusy(false);
    }
  }
  if (!quote)
    return (
      <ShopPage title="Quote">
        <p className={found.error ? "finding" : "empty"}>{found.error?.message ?? "Pricing the quote …"}</p>
      </ShopPage>
    );
  const draft = quote.state === "draft";
  const put = (more: Partial<QuoteBody>) => void make(() => business.edit(id, { ...quote.asked, ...more }));
  return (
    <ShopPage
      title={`Quote ${quote.number}${quote.version > 1 ? ` version ${quote.version}` : ""}`}
      more={`${quote.customer.name} · ${STATES[quote.state] ?? quote.state}${quote.reason && `: ${quote.reason}`}${quote.expired ? ", not valid any more" : ""}`}
    >
      {told && (
        <p className="finding" role="alert">
          {told}
        </p>
      )}
      <p className="issued">
        {draft && (
          <>
            <button
              type="button"
              className="act main"
              disabled={busy || !quote.offer}
              onClick={() => void make(() => business.issue(id, quote.mark))}
            >
              Issue
            </button>
            <button
              type="button"
              className="act quiet"
              disabled={busy}
              onClick={() =>
                void make(() => business.drop(id)).then((next) => next && void navigate("/quotes"))
              }
            >
              Drop the draft
            </button>
          </>
        )}
        {quote.offer && (
          <a className="act" href={business.paper(id)} target="_blank" rel="noreferrer">
            {draft ? "PDF as it would be" : "PDF as issued"}
          </a>
        )}
        {(quote.state === "open" || quote.state === "lost") && (
          <button
            type="button"
            className="act"
            disabled={busy}
            onClick={() =>
              void make(() => business.again(id)).then((next) => next && void navigate(`/quotes/${next.id}`))
            }
          >
            New version
          </button>
        )}
        {(quote.state === "won" || quote.state === "lost") && (
          <button
            type="button"
            className="act quiet"
            disabled={busy}
            onClick={() =>
              void make(() => business.decide(id, { state: "open", ordered: [], reason: "", words: "" }))
            }
          >
            Take that back
          </button>
        )}
        {quote.versions.length > 1 && (
          <span className="soft">
            versions{" "}
            {quote.versions.map((one) => (
              <span key={one.id}>
                {one.id === id ? (
                  <b>{one.version}</b>
                ) : (
                  <Link to={`/quotes/${one.id}`} title={STATES[one.state]}>
                    {one.version}
                  </Link>
                )}{" "}
              </span>
            ))}
          </span>
        )}
      </p>
      {quote.changed.length > 0 && (
        <section className="quote-changed">
          <h2>Said otherwise than the version before</h2>
          <ul>
            {quote.changed.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </section>
      )}
      {quote.state === "open" && quote.offer && (
        <Decide
          key={quote.id}
          offer={quote.offer}
          busy={busy}
          onDecide={(body) => void make(() => business.decide(id, body))}
        />
      )}
      <div className="quote-columns">
        <section aria-label="Parts">
          {!quote.offer && !quote.trouble && <p className="empty">It offers nothing yet: add a part.</p>}
          {quote.trouble && (
            <div className="finding">
              It cannot be priced: {quote.trouble}
              <ul>
                {quote.asked.lines.map((one) => (
                  <li key={one.plan}>
                    <Link to={`/plans/${one.plan}/price`}>its part</Link>{" "}
                    <button
                      type="button"
                      className="act quiet"
                      onClick={() => put({ lines: quote.asked.lines.filter((other) => other !== one) })}
                    >
                      Leave out
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          )}
          {quote.offer?.lines.map((line) => (
            <QuoteLine
              key={line.plan}
              line={line}
              currency={quote.offer?.currency ?? ""}
              ordered={quote.ordered.find((one) => one.plan === line.plan)?.quantity ?? null}
              asked={draft ? quote.asked : null}
              busy={busy}
              onPut={put}
            />
          ))}
          {draft && (
            <AddPart
              taken={quote.asked.lines.map((one) => one.plan)}
              onAdd={(line) => put({ lines: [...quote.asked.lines, line] })}
            />
          )}
        </section>
        <QuoteTerms quote={quote} draft={draft} onPut={put} />
      </div>
    </ShopPage>
  );
}
