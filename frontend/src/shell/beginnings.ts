/** What the part comes to begun anew on each machine. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { useDesk } from "./plan";

export function useBeginnings(enabled = true) {
  const { plan } = useDesk();
  return useQuery({
    queryKey: ["beginnings", plan.plan_id, plan.edition],
    queryFn: () => api.beginnings(plan.plan_id),
    placeholderData: keepPreviousData,
    enabled,
  });
}
