/** The part of the open plan as triangles, looked up once for all pictures of it. */
import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { useDesk } from "./plan";

export function usePartMesh() {
  const { plan } = useDesk();
  return useQuery({
    queryKey: ["mesh", plan.plan_id, plan.job.revision],
    queryFn: () => api.mesh(plan.plan_id, plan.job.revision),
    staleTime: Infinity,
  });
}
