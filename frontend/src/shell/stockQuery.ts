/** The stock after some operations of a plan, asked for once an edition. */
import { api } from "../api/client";

export const stockQuery = (id: number, edition: number, count: number) => ({
  queryKey: ["stock-after", id, edition, count],
  queryFn: () => api.stockAfter(id, count),
  staleTime: Infinity,
});
