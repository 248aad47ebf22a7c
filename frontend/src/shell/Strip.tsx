/** The ledger strip: the plan's figures, always there; each opens the entries that it is made of. */
import { Toast } from "react-bootstrap";
import type { EffectView, SecondsView } from "../api/client";
import { TimeBar } from "../views/TimeBar";
import { clock, fixed, hoursText, moneyText, signed } from "./numbers";
import { useDesk } from "./plan";

/** Beside a price that what the stock shows may still change. */
export const NOT_FOLLOWED = "stock not followed yet";

export type Figure = "cycle" | "piece" | "setup" | "each" | "findings";

export function Strip({ onOpen }: { onOpen: (figure: Figure) => void }) {
  const { plan, busy, notice, dismiss } = useDesk();
  const { strip } = plan;
  const findings = strip.errors + strip.warnings;
  const tone = strip.errors > 0 ? "debit" : strip.warnings > 0 ? "caution" : "";
  return (
    <footer className="strip" aria-label="Ledger" data-edition={plan.edition}>
      <div className="figs">
        <Fig name="Cycle per piece" onClick={() => onOpen("cycle")} testid="strip-cycle">
          {clock(strip.cycle)}
        </Fig>
        <Fig name="With handling" onClick={() => onOpen("piece")} testid="strip-piece">
          {clock(strip.per_piece)}
        </Fig>
        <Fig name="Setting up" unit="h" onClick={() => onOpen("setup")} testid="strip-setup">
          {hoursText(Number(strip.setup_hours))}
        </Fig>
        <Fig
          name={`Price each at ${strip.quantity}`}
          onClick={() => onOpen("each")}
          testid="strip-each"
          mark={plan.stock_followed ? undefined : NOT_FOLLOWED}
        >
          {moneyText(strip.each)}
        </Fig>
        <Fig name="Findings" tone={tone} onClick={() => onOpen("findings")} testid="strip-findings">
          {findings}
        </Fig>
        <div className="last" aria-live="polite" aria-busy={busy}>
          {notice ? (
            <Toast
              bsPrefix="notice"
              animation={false}
              className={notice.tone === "refused" ? "debit" : ""}
              role={notice.tone === "refused" ? "alert" : "status"}
              onClose={dismiss}
            >
              {notice.words}{" "}
              <button type="button" className="act quiet" onClick={dismiss}>
                Good
              </button>
            </Toast>
          ) : strip.last ? (
            <>
              <span className="what">last: {strip.last.words}</span>
              <b data-testid="strip-effect">
                <EffectWords effect={strip.last} />
              </b>
            </>
          ) : (
            <span className="what">the quick price, nothing changed yet</span>
          )}
        </div>
      </div>
      <TimeBar seconds={strip.seconds} />
      <Key seconds={strip.seconds} />
    </footer>
  );
}

function Fig(props: {
  name: string;
  unit?: string;
  tone?: string;
  onClick: () => void;
  testid: string;
  mark?: string;
  children: React.ReactNode;
}) {
  return (
    <button type="button" className="fig" onClick={props.onClick} title="Show what it is made of">
      <small>{props.name}</small>
      <b className={props.tone} data-testid={props.testid}>
        {props.children}
        {props.unit && <u>{props.unit}</u>}
      </b>
      {props.mark && <span className="mark">{props.mark}</span>}
    </button>
  );
}

/** `−6.4 s · −0.31 each · 1 finding gone`. */
export function EffectWords({ effect }: { effect: EffectView }) {
  const words: string[] = [];
  if (Math.abs(effect.per_piece) >= 0.05) words.push(`${signed(effect.per_piece, 1)} s`);
  if (Number(effect.setup_hours) !== 0)
    words.push(`${signed(Number(effect.setup_hours) * 60, 0)} min setting up`);
  if (Number(effect.each) !== 0) words.push(`${signed(Number(effect.each), 2)} each`);
  if (effect.findings_gone)
    words.push(`${effect.findings_gone} finding${effect.findings_gone > 1 ? "s" : ""} gone`);
  if (effect.findings_new)
    words.push(`${effect.findings_new} new finding${effect.findings_new > 1 ? "s" : ""}`);
  return <>{words.length ? words.join(" · ") : "no change in time or price"}</>;
}

function Key({ seconds }: { seconds: SecondsView[] }) {
  return (
    <div className="key">
      {seconds
        .filter((one) => one.seconds > 0)
        .map((one) => (
          <span key={one.category}>
            <i className={`tone t-${one.category.replace(" ", "-")}`} />
            {one.category} {fixed(one.seconds, 1)}
          </span>
        ))}
      <span className="end">seconds per piece</span>
    </div>
  );
}
