/** Balance: what runs at the same time on the carriages of a machine, who waits for whom, and what would be shorter. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type BalancedLoadView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { fixed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Tabs } from "../../shell/Tabs";
import { LanesStrip } from "../../views/LanesStrip";
import type { Span } from "../../views/timeAxis";
import { BothEnds } from "./BothEnds";
import { CellOfPlan } from "./CellOfPlan";
import { Gains } from "./Gains";
import { LeastCycle } from "./LeastCycle";
import { OnCarriages } from "./OnCarriages";
import { OnDrum } from "./OnDrum";
import { TakenOver } from "./TakenOver";

const CELL = "cell";

export function BalancePage() {
  const { plan } = useDesk();
  const [id, setId] = useState("");
  const found = useQuery({
    queryKey: ["balance", plan.plan_id, plan.edition],
    queryFn: () => api.balance(plan.plan_id),
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  const loads = found.data?.loads ?? [];
  const load = loads.find((one) => one.load === id) ?? loads.find((one) => one.at_once) ?? loads[0];
  const shown = id === CELL ? CELL : (load?.load ?? "");
  if (found.error)
    return (
      <div className="one-column">
        <h1>Balance</h1>
        <p className="finding">{found.error.message}</p>
      </div>
    );
  if (!load)
    return <p className="empty">{found.data ? "No operation to balance." : "Laying out the lanes …"}</p>;
  return (
    <div className="one-column balance-page">
      <h1>
        Balance{" "}
        <small>{shown === CELL ? "the machines beside one another, tended by people" : said(load)}</small>
      </h1>
      <Tabs
        label="Loads"
        tabs={[
          ...loads.map((one) => ({
            id: one.load,
            words: (
              <>
                <b>{one.setups.join(" + ")}</b> {one.machine}, {fixed(one.cycle, 1)} s
              </>
            ),
          })),
          { id: CELL, words: "Cell" },
        ]}
        shown={shown}
        panel="balance-panel"
        onShow={setId}
      />
      <div id="balance-panel" className="panel" role="tabpanel" aria-labelledby={`tab-${shown}`}>
        {shown === CELL ? (
          <CellOfPlan />
        ) : load.at_once || load.handover ? (
          <Beside key={load.load} load={load} />
        ) : (
          <OneCarriage load={load} />
        )}
      </div>
    </div>
  );
}

function said(load: BalancedLoadView): string {
  if (load.handover && !load.at_once)
    return `${fixed(load.cycle, 1)} s a cycle: the counter spindle takes each piece over`;
  if (!load.at_once) return `${load.machine}: one operation after the other`;
  const saved = load.one_by_one - load.cycle;
  const than = `${fixed(load.cycle, 1)} s a cycle, one after the other ${fixed(load.one_by_one, 1)} s`;
  if (Math.abs(saved) < 0.05) return than;
  const money = `${fixed(Math.abs(saved), 1)} s ${saved > 0 ? "saved" : "lost"}, ${fixed(Math.abs(load.saved), 2)} each of machine and operator`;
  return `${than}: ${money}`;
}

function OneCarriage({ load }: { load: BalancedLoadView }) {
  const { change } = useDesk();
  const first = load.setups[0];
  return (
    <>
      <p>{load.machine} has one carriage: its operations run one after the other.</p>
      {load.able.map((machine) => (
        <p key={machine.id} className="cures">
          <button
            type="button"
            className="act"
            onClick={() => first && void change({ change: "set-machine", setup: first, machine: machine.id })}
          >
            Make {load.setups.join(" + ")} on {machine.name}
          </button>
        </p>
      ))}
      <BothEnds />
    </>
  );
}

function Beside({ load }: { load: BalancedLoadView }) {
  const { plan, change } = useDesk();
  const [zoom, setZoom] = useState<Span | null>(null); // null: the whole cycle, whatever it takes by now
  const [chosen, setChosen] = useState<string | null>(null);
  const span: Span = zoom && zoom[1] <= load.cycle ? zoom : [0, load.cycle];
  const findings = plan.findings.some((f) => f.chapter === "balance" && load.setups.includes(f.setup));
  return (
    <>
      <LanesStrip
        load={load}
        span={span}
        onSpan={setZoom}
        chosen={chosen}
        onChoose={setChosen}
        onMove={(operation, carriage) =>
          void change({ change: "set-carriage", load: load.load, operation, carriage })
        }
      />
      <div className="order-columns">
        <section aria-label={`Operations of ${load.setups.join(" + ")}`} className="scroll">
          <OnCarriages load={load} chosen={chosen} onChoose={setChosen} />
        </section>
        <section aria-label="Shorter" className="scroll">
          {findings && <Findings of={(f) => f.chapter === "balance" && load.setups.includes(f.setup)} />}
          {load.at_once && (
            <p>
              {load.words}. No way of sharing the work out takes less than{" "}
              {fixed(load.bound, load.drum ? 2 : 1)} s.
            </p>
          )}
          {load.drum && <OnDrum load={load} drum={load.drum} />}
          <Gains load={load} />
          {load.at_once && <LeastCycle load={load} />}
          {load.handover ? <TakenOver handover={load.handover} load={load} /> : <BothEnds />}
        </section>
      </div>
    </>
  );
}
