/** All quotes, what became of them, customers, and what the shop says of itself on a quote. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Table } from "react-bootstrap";
import { Link, useNavigate, useSearchParams } from "react-router";
import { business } from "../../api/business";
import type { Schemas } from "../../api/types";
import { fixed, moneyText } from "../../shell/numbers";
import { ShopPage } from "../../shell/ShopPage";
import { Tabs } from "../../shell/Tabs";
import { Customers } from "./Customers";
import { ShopTerms } from "./ShopTerms";

const TABS = [
  { id: "list", words: "Quotes" },
  { id: "record", words: "Won and lost" },
  { id: "customers", words: "Customers" },
  { id: "terms", words: "The shop’s terms" },
];

export function QuotesPage() {
  const [address, setAddress] = useSearchParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [told, setTold] = useState("");
  const found = useQuery({ queryKey: ["quotes"], queryFn: business.quotes, staleTime: 0 });
  const customers = useQuery({ queryKey: ["customers"], queryFn: business.customers });
  const asked = address.get("show") ?? "list";
  const shown = TABS.some((one) => one.id === asked) ? asked : "list";
  const known = customers.data?.customers ?? [];
  async function begin(customer: number) {
    try {
      const quote = await business.begin({ customer, customer_name: "", lines: [] });
      await queries.invalidateQueries({ queryKey: ["quotes"] });
      await navigate(`/quotes/${quote.id}`);
    } catch (error) {
      setTold((error as Error).message);
    }
  }
  return (
    <ShopPage title="Quotes" more={found.data && `${found.data.quotes.length}`}>
      <Tabs
        label="Quotes"
        tabs={TABS}
        shown={shown}
        panel="quotes-panel"
        onShow={(id) => setAddress(id === "list" ? {} : { show: id }, { replace: true })}
      />
      {found.error && <p className="finding">{found.error.message}</p>}
      {told && <p className="finding">{told}</p>}
      <div id="quotes-panel" className="panel" role="tabpanel" aria-labelledby={`tab-${shown}`}>
        {shown === "list" && found.data && (
          <>
            <p className="issued">
              <label>
                New quote for{" "}
                <select
                  value=""
                  onChange={(event) => void begin(Number(event.target.value))}
                  disabled={known.length === 0}
                >
                  <option value="">choose a customer</option>
                  {known.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                    </option>
                  ))}
                </select>
              </label>
              <span className="soft">or “Quote it” in a plan’s chapter Price</span>
              <a className="act quiet" href={business.list("quotes.csv")}>
                CSV
              </a>
              <a className="act quiet" href={business.list("quotes.xlsx")}>
                XLSX
              </a>
            </p>
            <QuoteList quotes={found.data.quotes} />
          </>
        )}
        {shown === "record" && found.data && <Record view={found.data} />}
        {shown === "customers" && <Customers />}
        {shown === "terms" && <ShopTerms />}
      </div>
    </ShopPage>
  );
}

export const STATES: Record<string, string> = {
  draft: "draft",
  open: "waits for an answer",
  won: "won",
  lost: "lost",
  replaced: "replaced by a later version",
  dropped: "dropped",
};

function QuoteList({ quotes }: { quotes: Schemas["QuoteRowView"][] }) {
  if (quotes.length === 0)
    return <p className="empty">No quote yet. Open a plan, go to its chapter Price, and take “Quote it”.</p>;
  return (
    <Table bsPrefix="ledger-table" className="quotes-table">
      <thead>
        <tr>
          <th>Quote</th>
          <th>Customer</th>
          <th>Parts</th>
          <th>State</th>
          <th>issued</th>
          <th>valid until</th>
          <th className="n">smallest lots</th>
        </tr>
      </thead>
      <tbody>
        {quotes.map((one) => (
          <tr key={one.id}>
            <td>
              <Link to={`/quotes/${one.id}`}>
                {one.number}
                {one.version > 1 && ` version ${one.version}`}
              </Link>
            </td>
            <td>{one.customer}</td>
            <td className="words">{one.parts.join("; ") || "–"}</td>
            <td className={one.state === "lost" ? "debit" : undefined}>
              {STATES[one.state] ?? one.state}
              {one.expired && <small className="debit">not valid any more</small>}
              {one.reason && `: ${one.reason}`}
            </td>
            <td>{one.issued ?? "–"}</td>
            <td>{one.until ?? "–"}</td>
            <td className="n">{one.least === null ? "–" : `${one.currency} ${moneyText(one.least)}`}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

const share = (value: number | null) => (value === null ? "–" : `${fixed(100 * value, 0)} %`);

function Record({ view }: { view: Schemas["QuotesView"] }) {
  const decided = view.customers.some((one) => one.won + one.lost > 0);
  if (!decided)
    return <p className="empty">Nothing was decided yet: say of an issued quote that it is won or lost.</p>;
  return (
    <div className="two-halves">
      <TallyTable head="Customer" rows={view.customers} currency={view.currency} />
      <section>
        <TallyTable head="Material" rows={view.materials} currency={view.currency} />
        {view.lost.length > 0 && (
          <Table bsPrefix="ledger-table" className="beside-actual">
            <thead>
              <tr>
                <th>Lost for</th>
                <th className="n">quotes</th>
              </tr>
            </thead>
            <tbody>
              {view.lost.map((one) => (
                <tr key={one.reason}>
                  <td>{one.reason}</td>
                  <td className="n">{one.count}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
      </section>
    </div>
  );
}

type TallyProps = { head: string; rows: Schemas["TallyView"][]; currency: string };

function TallyTable({ head, rows, currency }: TallyProps) {
  return (
    <Table bsPrefix="ledger-table" className="beside-actual">
      <thead>
        <tr>
          <th>{head}</th>
          <th className="n">won</th>
          <th className="n">lost</th>
          <th className="n">waiting</th>
          <th className="n">won of decided</th>
          <th className="n">ordered {currency}</th>
          <th className="n">margin</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.name}>
            <td>{row.name}</td>
            <td className="n">{row.won}</td>
            <td className="n">{row.lost}</td>
            <td className="n">{row.open}</td>
            <td className="n">{share(row.rate)}</td>
            <td className="n">{moneyText(row.ordered)}</td>
            <td className="n">{row.margin === null ? "–" : `${fixed(100 * row.margin, 1)} %`}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
