/** What takes a second or so of the same server is asked for once the hand rests. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useDesk } from "../../shell/plan";

const RESTED = 700; // ms after a change

/** What is computed of a load of the plan as it stands; `older`: of the plan before, until that is there. Of another
 * load nothing. */
export function useRested<T extends { load: string }>(
  what: string,
  load: string,
  ask: (plan: number, load: string) => Promise<T>,
): { data: T | undefined; older: boolean; error: Error | null } {
  const { plan } = useDesk();
  const [resting, setResting] = useState(-1);
  useEffect(() => {
    const wait = setTimeout(() => setResting(plan.edition), RESTED);
    return () => clearTimeout(wait);
  }, [plan.edition]);
  const found = useQuery({
    queryKey: [what, plan.plan_id, resting, load],
    queryFn: () => ask(plan.plan_id, load),
    staleTime: Infinity,
    enabled: resting === plan.edition,
    placeholderData: keepPreviousData,
  });
  const older = found.isPlaceholderData || resting !== plan.edition;
  return { data: found.data?.load === load ? found.data : undefined, older, error: found.error };
}
