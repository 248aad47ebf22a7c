/** The pieces of a load that is played, each as far as it is; the one that is worked on is drawn elsewhere. */
import { useQueries } from "@tanstack/react-query";
import { useMemo } from "react";
import type { PlayView } from "../../api/client";
import { useDesk } from "../../shell/plan";
import { stockQuery } from "../../shell/stockQuery";
import { LoadBodies } from "../../views/LoadBodies";

type Props = { play: PlayView; load: PlayView["loads"][number]; index: number; done: boolean };

export function Others({ play, load, index, done }: Props) {
  const { plan } = useDesk();
  const states = useMemo(() => statesAt(play, load, index, done), [play, load, index, done]);
  const counts = [...new Set(states.values())];
  const solids = useQueries({
    queries: counts.map((count) => stockQuery(plan.plan_id, plan.edition, count)),
  });
  return (
    <LoadBodies
      load={load}
      fixtures={play.setups}
      stock={(place) => solids[counts.indexOf(states.get(place) ?? 0)]?.data}
      without={play.entries[index]?.place}
    />
  );
}

/** How many operations of the plan each piece of a load has been through when an entry runs. */
function statesAt(play: PlayView, load: PlayView["loads"][number], index: number, done: boolean) {
  const found = new Map<string, number>();
  const own = play.entries.filter((one) => load.setups.includes(one.setup));
  for (const one of own) if (!found.has(one.place)) found.set(one.place, one.before);
  play.entries.forEach((one, i) => {
    if (load.setups.includes(one.setup) && (i < index || (done && i === index)))
      found.set(one.place, one.after);
  });
  return found;
}
