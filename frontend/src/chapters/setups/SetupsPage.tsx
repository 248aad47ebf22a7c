/** Setups: how the part lies, what holds it, where the zero is, how much stock stands on it. */
import { useState } from "react";
import { useSearchParams } from "react-router";
import { Findings } from "../../shell/Findings";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { Tabs } from "../../shell/Tabs";
import { Division } from "./Division";
import { Engraved } from "./Engraved";
import { FromZero } from "./FromZero";
import { Grips } from "./Grips";
import { CycleExtras } from "./CycleExtras";
import { HandWork } from "./HandWork";
import { backWords, faceWords, LayByFaces } from "./LayByFaces";
import { SetupChoices } from "./SetupChoices";
import { SetupDrawing } from "./SetupDrawing";
import { SetupFeatures } from "./SetupFeatures";
import { StockSteps } from "./StockSteps";
import { StockFields } from "./StockFields";

const DIVISION = "division";
const STOCK = "stock";
const VIEWS: Record<string, string> = { [DIVISION]: "Who makes what", [STOCK]: "The stock, step by step" };

export function SetupsPage() {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const [address, setAddress] = useSearchParams();
  const [laying, setLaying] = useState(false);
  const chosen = address.get("setup") ?? DIVISION;
  const setChosen = (id: string) =>
    setAddress(id === DIVISION ? {} : { setup: id }, { replace: true, preventScrollReset: true });
  const setup = plan.setups.find((s) => s.id === chosen) ?? plan.setups[0];
  if (!setup) return null;
  const one = plan.setups.some((s) => s.id === chosen);
  const shown = one ? setup.id : chosen === STOCK ? STOCK : DIVISION;
  const errors = (id: string) => plan.findings.filter((f) => f.setup === id && f.chapter === "setups").length;
  const tabs = [
    { id: DIVISION, words: VIEWS[DIVISION] },
    ...plan.setups.map((s) => ({
      id: s.id,
      words: (
        <>
          <b>{s.id}</b> {s.hold.free ? `${s.hold.free} free` : `${s.up} ${s.hold.spins ? "turned" : "up"}`}
          {errors(s.id) > 0 && <em className="debit"> {errors(s.id)}</em>}
        </>
      ),
    })),
    { id: STOCK, words: VIEWS[STOCK] },
  ];
  return (
    <div className={one ? "two-columns setups-page" : "one-column setups-page"}>
      <section aria-label={one ? `Setup ${setup.id}` : VIEWS[shown]}>
        <h1>
          Setups{" "}
          <small>
            {plan.setups.length} · stock {plan.stock.map((v) => lengthText(v, unit, 1)).join(" × ")} {unit} ·{" "}
            {fixed(100 * plan.chips_share, 0)} % goes into chips
          </small>
        </h1>
        <Tabs label="Setups" tabs={tabs} shown={shown} panel="setup-panel" onShow={setChosen} />
        <div id="setup-panel" role="tabpanel" aria-labelledby={`tab-${shown}`}>
          {shown === DIVISION && <Division />}
          {shown === STOCK && <StockSteps />}
          {one && (
            <>
              <Findings of={(f) => f.chapter === "setups" && (f.setup === setup.id || f.setup === "")} />
              <p className="lies">
                Rests on {faceWords(setup.hold.lies.base, setup.hold.lies.base_named)}, {backWords(setup)}{" "}
                {faceWords(setup.hold.lies.back, setup.hold.lies.back_named)}
                {setup.hold.kind === "vise" && ", centred along the jaws"}.{" "}
                <button
                  type="button"
                  className="act quiet"
                  aria-pressed={laying}
                  onClick={() => setLaying(!laying)}
                >
                  {laying ? "Back to the drawing" : "Lay it by faces"}
                </button>
              </p>
              {laying ? <LayByFaces key={setup.id} setup={setup} /> : <SetupDrawing setup={setup} />}
            </>
          )}
        </div>
      </section>
      {one && (
        <section className="scroll" aria-label="Decisions">
          <SetupChoices key={setup.id} setup={setup} />
          <Grips setup={setup} />
          <HandWork setup={setup} />
          <CycleExtras setup={setup} />
          <Engraved setup={setup} />
          <StockFields />
          <SetupFeatures setup={setup} />
          <FromZero setup={setup} />
        </section>
      )}
    </div>
  );
}
