/** Layout: how many pieces lie in each load and where, on which offsets, and what each count costs. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { api, type LayoutView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { Findings } from "../../shell/Findings";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Tabs } from "../../shell/Tabs";
import { useUnit } from "../../shell/selection";
import { BarPicture } from "../../views/BarPicture";
import { Ahead } from "./ahead";
import { Arranged } from "./Arranged";
import { BarLoad } from "./BarLoad";
import { Counted } from "./Counted";
import { LoadDrawing } from "./LoadDrawing";
import { Offsets } from "./Offsets";
import { Pieces } from "./Pieces";
import { Runs } from "./Runs";
import { Scopes } from "./Scopes";
import { Together } from "./Together";

const LoadModel = lazy(() => import("./LoadModel"));

export function LayoutPage() {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const [address, setAddress] = useSearchParams();
  const found = useQuery({
    queryKey: ["layout", plan.plan_id, plan.edition],
    queryFn: () => api.layout(plan.plan_id),
    placeholderData: keepPreviousData,
  });
  const loads = found.data ?? [];
  const load = loads.find((one) => one.load === address.get("load")) ?? loads[0];
  const ahead = useAhead(load);
  if (found.error) return <p className="empty">{found.error.message}</p>;
  if (!load) return <p className="empty">Laying out …</p>;
  const own = load.setups.map((one) => one.setup);
  return (
    <div className="two-columns layout-page">
      <section aria-label={`Load ${load.load}`}>
        <h1>
          Layout{" "}
          <small>
            {load.finished === 1 ? "1 piece" : `${load.finished} pieces`} a cycle in {load.name} ·{" "}
            {fixed(load.each, 1)} s each with loading
          </small>
        </h1>
        <Tabs
          label="Loads"
          tabs={loads.map((one) => ({ id: one.load, words: <Tab load={one} /> }))}
          shown={load.load}
          panel="layout-panel"
          onShow={(id) => setAddress({ load: id }, { replace: true })}
        />
        <div id="layout-panel" role="tabpanel" aria-labelledby={`tab-${load.load}`}>
          {load.bar ? (
            <BarPicture bar={load.bar} text={(length) => lengthText(length, unit)} />
          ) : (
            <Drawn load={load} ahead={ahead} />
          )}
          <Pieces load={load} ahead={ahead} />
        </div>
      </section>
      <section className="scroll" aria-label="Arrangement">
        <Findings of={(f) => f.chapter === "layout" && own.includes(f.setup ?? "")} />
        {load.bar ? (
          <BarLoad load={load} bar={load.bar} />
        ) : load.several ? (
          <p className="soft">{load.several}</p>
        ) : (
          <Arranged load={load} />
        )}
        {(!load.several || load.in_turn === "spindles" || load.can_join.length > 0) && (
          <Together load={load} />
        )}
        {(load.bar !== null || !load.several) && load.in_turn !== "spindles" && load.pieces.length > 1 && (
          <Scopes load={load} />
        )}
        {!load.several && <Counted load={load} />}
        <Runs load={load} />
        <Offsets load={load} />
      </section>
    </div>
  );
}

/** Where pieces were told to go, until they are shown so. */
function useAhead(load: LayoutView | undefined): Ahead {
  const [ahead] = useState(() => new Ahead());
  useEffect(() => ahead.shown(), [ahead, load]);
  return ahead;
}

/** From above or in 3D. */
function Drawn({ load, ahead }: { load: LayoutView; ahead: Ahead }) {
  const [solid, setSolid] = useState(false);
  if (load.pieces.length < 2) return <LoadDrawing load={load} ahead={ahead} />;
  return (
    <>
      <p className="which">
        <Choice
          label="Drawn"
          values={HOW}
          words={HOW_WORDS}
          value={solid ? "solid" : "above"}
          onChoose={(how) => setSolid(how === "solid")}
        />
      </p>
      {solid ? (
        <Suspense fallback={<p className="empty">Getting the 3D picture …</p>}>
          <LoadModel load={load} />
        </Suspense>
      ) : (
        <LoadDrawing load={load} ahead={ahead} />
      )}
    </>
  );
}

const HOW = ["above", "solid"] as const;
const HOW_WORDS = { above: "from above, to scale", solid: "in 3D" };

function Tab({ load }: { load: LayoutView }) {
  return (
    <>
      <b>{load.name}</b> {load.finished === 1 ? "1 piece" : `${load.finished} pieces`}
    </>
  );
}
