/** The plans of the job that is open, and another one forked from this. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { alternatives } from "../api/alternatives";
import type { Schemas } from "../api/types";
import { planKey, useDesk } from "./plan";

export function useAlternatives() {
  const { plan } = useDesk();
  return useQuery({
    queryKey: ["alternatives", plan.plan_id, plan.edition],
    queryFn: () => alternatives.list(plan.plan_id),
    placeholderData: (before) => before,
    refetchInterval: 8000,
  });
}

/** Whatever was done to a plan of the job shows in the list and in the heading at once. */
export function useTold() {
  const queries = useQueryClient();
  const { plan } = useDesk();
  return () => {
    void queries.invalidateQueries({ queryKey: ["alternatives"] });
    void queries.invalidateQueries({ queryKey: planKey(plan.plan_id) });
  };
}

/** Forks this plan and goes to the new one. */
export function useFork() {
  const { plan } = useDesk();
  const navigate = useNavigate();
  const told = useTold();
  return useMutation({
    mutationFn: (body: Partial<Schemas["NewAlternative"]>) => alternatives.fork(plan.plan_id, body),
    onSuccess: ({ plan_id }) => {
      told();
      void navigate(`/plans/${plan_id}/alternatives`);
    },
  });
}
