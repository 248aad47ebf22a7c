/** Findings with what can be done about them. */
import type { FindingView } from "../api/client";
import { useDesk } from "./plan";
import { useSelection } from "./selection";

export function Finding({ finding }: { finding: FindingView }) {
  const { change } = useDesk();
  const { choose } = useSelection();
  return (
    <div className={finding.severity === "error" ? "finding" : "finding caution-finding"}>
      <b>{finding.title}</b> <span>{finding.why}</span>
      {(finding.cures.length > 0 || finding.features.length > 0) && (
        <div className="cures">
          {finding.cures.map((cure) => (
            <button key={cure.label} type="button" className="act" onClick={() => void change(cure.change)}>
              {cure.label}
            </button>
          ))}
          {finding.features.length > 0 && (
            <button type="button" className="act quiet" onClick={() => choose(finding.features)}>
              Show{" "}
              {finding.features.length > 4
                ? `${finding.features.length} features`
                : finding.features.join(", ")}
            </button>
          )}
        </div>
      )}
    </div>
  );
}

export function Findings({ of }: { of: (finding: FindingView) => boolean }) {
  const { plan } = useDesk();
  const shown = plan.findings.filter(of);
  if (shown.length === 0) return null;
  return (
    <section aria-label="Findings" className="findings">
      {shown.map((finding) => (
        <Finding
          key={`${finding.code} ${finding.setup} ${finding.operation} ${finding.features.join()}`}
          finding={finding}
        />
      ))}
    </section>
  );
}
