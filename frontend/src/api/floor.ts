/** The floor: a load's page at its machine, what came back of a plan, what was measured of the machines. */
import { client, made, MARK, unwrap } from "./client";
import type { Schemas } from "./types";

const at = (plan: number, setup: string) => ({ path: { plan_id: plan, setup } });
const factor = (machine: string, category: string) => ({
  params: { path: { machine, category }, header: MARK },
});

export type FloorEvent = Schemas["EventBody"];

export const floor = {
  at: (plan: number, setup: string) =>
    unwrap<Schemas["FloorView"]>(client.GET("/api/floor/{plan_id}/{setup}", { params: at(plan, setup) })),
  send: (plan: number, setup: string, events: FloorEvent[]) =>
    unwrap<Schemas["EventsTaken"]>(
      client.POST("/api/floor/{plan_id}/{setup}/events", {
        params: { ...at(plan, setup), header: MARK },
        body: { events },
      }),
    ),
  photo: (plan: number, hash: string) => `/api/floor/${plan}/photos/${hash}`,
  ofPlan: (plan: number) =>
    unwrap<Schemas["PlanFloorView"]>(
      client.GET("/api/plans/{plan_id}/floor", { params: { path: { plan_id: plan } } }),
    ),
  run: (plan: number, runs: number) =>
    made<Schemas["SentView"]>(() =>
      client.POST("/api/plans/{plan_id}/program/send", {
        params: { path: { plan_id: plan }, query: { runs }, header: MARK },
      }),
    ),
  factors: () => unwrap<Schemas["FactorsView"]>(client.GET("/api/shop/factors")),
  use: (machine: string, category: string) =>
    unwrap<Schemas["FactorsView"]>(
      client.PUT("/api/shop/factors/{machine}/{category}", factor(machine, category)),
    ),
  drop: (machine: string, category: string) =>
    unwrap<Schemas["FactorsView"]>(
      client.DELETE("/api/shop/factors/{machine}/{category}", factor(machine, category)),
    ),
};
