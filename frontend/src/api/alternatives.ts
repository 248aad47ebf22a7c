/** The plans of a job: told apart, forked, chosen, compared; and the combinations that are made of one. */
import { client, made, MARK, unwrap } from "./client";
import type { AlternativesView, GridView, RevisionPriceView, Schemas, SideBySideView } from "./types";

const at = (id: number) => ({ path: { plan_id: id } });
const marked = (id: number) => ({ params: { ...at(id), header: MARK } });

export const alternatives = {
  list: (id: number) =>
    unwrap<AlternativesView>(client.GET("/api/plans/{plan_id}/alternatives", { params: at(id) })),
  fork: (id: number, body: Partial<Schemas["NewAlternative"]>) =>
    unwrap<Schemas["Created"]>(
      client.POST("/api/plans/{plan_id}/alternatives", {
        ...marked(id),
        body: { name: "", changes: [], ...body },
      }),
    ),
  edit: (id: number, body: Schemas["AlternativeEdit"]) =>
    unwrap<AlternativesView>(client.PATCH("/api/plans/{plan_id}/alternatives", { ...marked(id), body })),
  choose: (id: number) =>
    unwrap<AlternativesView>(client.POST("/api/plans/{plan_id}/alternatives/choice", marked(id))),
  compared: (id: number, plans: number[], signal?: AbortSignal) =>
    made<SideBySideView>(
      () =>
        client.GET("/api/plans/{plan_id}/alternatives/compared", {
          params: { ...at(id), query: { plans: plans.join(",") } },
        }),
      signal,
    ),
  revisionPrice: (id: number) =>
    made<RevisionPriceView>(() => client.GET("/api/plans/{plan_id}/revision-price", { params: at(id) })),
  grid: (id: number, signal?: AbortSignal) =>
    made<GridView>(() => client.GET("/api/plans/{plan_id}/alternatives/grid", { params: at(id) }), signal),
};
