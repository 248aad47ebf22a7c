/** Setups: how the part lies, what holds it, where the zero is, how much stock stands on it. */
import { useState } from "react";
import { Findings } from "../../shell/Findings";
import { fixed, lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { SetupChoices } from "./SetupChoices";
import { SetupDrawing } from "./SetupDrawing";
import { SetupFeatures } from "./SetupFeatures";
import { StockFields } from "./StockFields";

export function SetupsPage() {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const [chosen, setChosen] = useState(plan.setups[0]?.id ?? "");
  const setup = plan.setups.find((s) => s.id === chosen) ?? plan.setups[0];
  if (!setup) return null;
  const errors = (id: string) => plan.findings.filter((f) => f.setup === id && f.chapter === "setups").length;
  return (
    <div className="two-columns setups-page">
      <section aria-label={`Setup ${setup.id}`}>
        <h1>
          Setups{" "}
          <small>
            {plan.setups.length} · stock {plan.stock.map((v) => lengthText(v, unit, 1)).join(" × ")} {unit} ·{" "}
            {fixed(100 * plan.chips_share, 0)} % goes into chips
          </small>
        </h1>
        <div className="tabs-row">
          <div className="tabs" role="tablist" aria-label="Setups">
            {plan.setups.map((s, i) => (
              <button
                key={s.id}
                type="button"
                role="tab"
                id={`tab-${s.id}`}
                aria-controls="setup-panel"
                aria-selected={s.id === setup.id}
                tabIndex={s.id === setup.id ? 0 : -1}
                onClick={() => setChosen(s.id)}
                onKeyDown={(event) => {
                  const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
                  const next = plan.setups[i + step];
                  if (step && next) {
                    setChosen(next.id);
                    document.getElementById(`tab-${next.id}`)?.focus();
                  }
                }}
              >
                <b>{s.id}</b> {s.up} up{errors(s.id) > 0 && <em className="debit"> {errors(s.id)}</em>}
              </button>
            ))}
          </div>
          <button type="button" className="act" onClick={() => void change({ change: "divide-again" })}>
            Divide again
          </button>
        </div>
        <div id="setup-panel" role="tabpanel" aria-labelledby={`tab-${setup.id}`}>
          <Findings of={(f) => f.chapter === "setups" && (f.setup === setup.id || f.setup === "")} />
          <SetupDrawing setup={setup} />
        </div>
      </section>
      <section className="scroll" aria-label="Decisions">
        <SetupChoices key={setup.id} setup={setup} />
        <StockFields />
        <SetupFeatures setup={setup} />
      </section>
    </div>
  );
}
