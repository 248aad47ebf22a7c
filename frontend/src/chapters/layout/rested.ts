/** What takes a second or so of the same server is asked for once the hand rests. */
import { useEffect, useState } from "react";
import { useDesk } from "../../shell/plan";

const RESTED = 700; // ms after a change

/** The edition of the plan once it has stood for a while; before that another one. */
export function useRested(): number {
  const { plan } = useDesk();
  const [resting, setResting] = useState(-1);
  useEffect(() => {
    const wait = setTimeout(() => setResting(plan.edition), RESTED);
    return () => clearTimeout(wait);
  }, [plan.edition]);
  return resting;
}
