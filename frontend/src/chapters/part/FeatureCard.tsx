/** One feature or several alike ones: dimensions with where they were taken, and what the model does not say. */
import { Form } from "react-bootstrap";
import { useState, type KeyboardEvent } from "react";
import type { FeatureView } from "../../api/client";
import { fixed, readNumber, type Unit } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { measureText, span, waysText } from "./words";

export function FeatureCard({ features, unit }: { features: FeatureView[]; unit: Unit }) {
  const { change } = useDesk();
  const first = features[0];
  if (!first) return null;
  const ids = features.map((f) => f.id);
  const alike = features.every((f) => f.kind === first.kind && f.title === first.title);
  const common = <T,>(read: (f: FeatureView) => T): T | null =>
    features.every((f) => read(f) === read(first)) ? read(first) : null;
  return (
    <div className="feature-card" role="group" aria-label={`Feature ${span(ids)}`}>
      <h3>
        {span(ids)} {alike ? first.title : `${features.length} features`}
        {first.became !== "same" && features.length === 1 && <em> {first.became} in this revision</em>}
      </h3>
      {alike && (
        <dl className="measures">
          {first.measures.map((m) => (
            <div key={m.label}>
              <dt>{m.label}</dt>
              <dd>{measureText(m, unit)}</dd>
              <dd className="soft">{m.source}</dd>
            </div>
          ))}
          <div>
            <dt>reached</dt>
            <dd>
              {first.access.length ? (
                `from ${waysText(first.access)}`
              ) : (
                <span className="debit">from nowhere</span>
              )}
            </dd>
            {first.in_the_way && <dd className="debit">{first.in_the_way}</dd>}
          </div>
        </dl>
      )}
      <div className="say">
        <SayField
          label="Tolerance"
          placeholder="H7, ±0.02"
          value={common((f) => f.said.tolerance) ?? ""}
          onCommit={(text) => change({ change: "say-tolerance", features: ids, tolerance: text || null })}
        />
        <SayField
          label="Ra, µm"
          placeholder="1.6"
          value={
            common((f) => (f.said.finish === null ? "" : fixed(f.said.finish, 2).replace(/\.?0+$/, ""))) ?? ""
          }
          onCommit={(text) =>
            change({ change: "say-finish", features: ids, finish: text ? readNumber(text, null) : null })
          }
        />
        {features.every((f) => f.threads.length > 0) && (
          <label>
            Thread
            <Form.Select
              bsPrefix="choice"
              value={common((f) => f.said.thread) ?? ""}
              onChange={(event) =>
                void change({ change: "say-thread", features: ids, thread: event.target.value || null })
              }
            >
              <option value="">as its size</option>
              <option value="plain">none</option>
              {first.threads.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </Form.Select>
          </label>
        )}
        <label>
          Made
          <Form.Select
            bsPrefix="choice"
            value={common((f) => f.left_out ?? "") ?? ""}
            onChange={(event) =>
              void change(
                event.target.value
                  ? {
                      change: "leave-out",
                      features: ids,
                      reason: event.target.value as "deburring" | "made elsewhere" | "filled for now",
                    }
                  : { change: "take-in", features: ids },
              )
            }
          >
            <option value="">here</option>
            <option value="deburring">in deburring</option>
            <option value="made elsewhere">elsewhere</option>
            {first.kind === "hole" && <option value="filled for now">filled for now</option>}
          </Form.Select>
        </label>
        <SayField
          label="Note"
          placeholder="for the sheet"
          wide
          value={common((f) => f.said.note) ?? ""}
          onCommit={(text) => change({ change: "say-note", features: ids, note: text })}
        />
      </div>
      {features.length === 1 && first.is_flat_side && (
        <p className="cures">
          <span className="soft">To hold by, put on {first.id}:</span>
          {(["lug", "tab", "boss"] as const).map((kind) => (
            <button
              key={kind}
              type="button"
              className="act quiet"
              onClick={() => void change({ change: "add-body", kind, on: first.id })}
            >
              a {kind}
            </button>
          ))}
        </p>
      )}
      {first.said.asks_for && (
        <p className="soft asks">
          {first.said.tolerance} asks for {first.said.asks_for}.
        </p>
      )}
    </div>
  );
}

/** A few words that are kept when Enter is pressed or the field is left; Escape leaves them as they were. */
function SayField(props: {
  label: string;
  placeholder: string;
  value: string;
  wide?: boolean;
  onCommit: (text: string) => Promise<boolean>;
}) {
  const { label, placeholder, value, wide, onCommit } = props;
  const [draft, setDraft] = useState<string | null>(null);
  function keep() {
    const text = (draft ?? value).trim();
    setDraft(null);
    if (text !== value) void onCommit(text);
  }
  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    if (event.key === "Enter") keep();
    if (event.key === "Escape") setDraft(null);
  }
  return (
    <label className={wide ? "wide" : undefined}>
      {label}
      <Form.Control
        bsPrefix="entry"
        value={draft ?? value}
        placeholder={placeholder}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={keep}
        onKeyDown={onKeyDown}
      />
    </label>
  );
}
