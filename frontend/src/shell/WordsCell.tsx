/** Words that are edited in place: Enter or leaving takes them, Escape leaves them as they were. */
import { useState, type ReactNode } from "react";

type Props = {
  label: string;
  value: string;
  /** what stands there where nothing is said */
  otherwise?: string;
  longest?: number;
  lines?: number;
  disabled?: boolean;
  onCommit: (value: string) => void;
};

export function WordsCell({ label, value, otherwise, longest = 120, lines = 1, disabled, onCommit }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== value) onCommit(draft.trim());
    setDraft(null);
  };
  const shared = {
    "aria-label": label,
    className: "words-cell",
    value: draft ?? value,
    placeholder: otherwise,
    maxLength: longest,
    disabled,
    onBlur: commit,
  };
  return lines > 1 ? (
    <textarea
      {...shared}
      rows={lines}
      onChange={(event) => setDraft(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Escape") setDraft(null);
      }}
    />
  ) : (
    <input
      {...shared}
      onChange={(event) => setDraft(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit();
        if (event.key === "Escape") setDraft(null);
      }}
    />
  );
}

/** Words beside what they are about; the cell has its name by itself. */
export function Field({ words, children }: { words: string; children: ReactNode }) {
  return (
    <div className="field">
      <span>{words}</span>
      {children}
    </div>
  );
}
