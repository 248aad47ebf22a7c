/** Quotes, customers, the shop's terms, and the hours of its machines. */
import { client, MARK, unwrap } from "./client";
import type { Schemas } from "./types";

const of = (id: number) => ({ path: { quote_id: id } });
const marked = (id: number) => ({ params: { ...of(id), header: MARK } });

export type QuoteBody = Schemas["QuoteBody"];
export type QuoteView = Schemas["QuoteView"];
export type CustomerBody = Schemas["CustomerBody"];
export type HoursBody = Schemas["HoursBody"];

export const business = {
  quotes: () => unwrap<Schemas["QuotesView"]>(client.GET("/api/quotes")),
  quote: (id: number) => unwrap<QuoteView>(client.GET("/api/quotes/{quote_id}", { params: of(id) })),
  begin: (body: Schemas["NewQuote"]) =>
    unwrap<QuoteView>(client.POST("/api/quotes", { params: { header: MARK }, body })),
  edit: (id: number, body: QuoteBody) =>
    unwrap<QuoteView>(client.PUT("/api/quotes/{quote_id}", { ...marked(id), body })),
  drop: (id: number) => unwrap<QuoteView>(client.DELETE("/api/quotes/{quote_id}", marked(id))),
  issue: (id: number, mark: string) =>
    unwrap<QuoteView>(client.POST("/api/quotes/{quote_id}/issue", { ...marked(id), body: { mark } })),
  again: (id: number) => unwrap<QuoteView>(client.POST("/api/quotes/{quote_id}/again", marked(id))),
  decide: (id: number, body: Schemas["Decision"]) =>
    unwrap<QuoteView>(client.POST("/api/quotes/{quote_id}/decision", { ...marked(id), body })),
  paper: (id: number) => `/api/quotes/${id}/pdf`,
  list: (file: "quotes.csv" | "quotes.xlsx") => `/api/quotes/files/${file}`,
  customers: () => unwrap<Schemas["CustomersView"]>(client.GET("/api/customers")),
  keepCustomer: (id: number | null, body: CustomerBody) =>
    unwrap<Schemas["CustomersView"]>(
      id === null
        ? client.POST("/api/customers", { params: { header: MARK }, body })
        : client.PUT("/api/customers/{customer_id}", {
            params: { path: { customer_id: id }, header: MARK },
            body,
          }),
    ),
  terms: () => unwrap<Schemas["TermsBody"]>(client.GET("/api/shop/terms")),
  keepTerms: (body: Schemas["TermsBody"]) =>
    unwrap<Schemas["TermsBody"]>(client.PUT("/api/shop/terms", { params: { header: MARK }, body })),
  capacity: () => unwrap<Schemas["CapacityView"]>(client.GET("/api/capacity")),
  keepHours: (body: HoursBody) =>
    unwrap<Schemas["CapacityView"]>(client.PUT("/api/capacity", { params: { header: MARK }, body })),
  leadTime: (plan: number, quantity: number, wanted: string | undefined) =>
    unwrap<Schemas["LeadView"]>(
      client.GET("/api/plans/{plan_id}/lead-time", {
        params: { path: { plan_id: plan }, query: { quantity, wanted } },
      }),
    ),
};
