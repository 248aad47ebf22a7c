/** A number that is edited in place: type, Enter or an arrow to go on, Escape to leave it as it was. */
import { useId, useRef, useState, type ClipboardEvent, type KeyboardEvent } from "react";
import { lengthText, readHours, readNumber, type Unit } from "./numbers";

type Props = {
  label: string;
  value: number;
  text: string;
  kind: "length" | "number" | "hours";
  unit?: Unit;
  column?: string;
  decided?: boolean;
  disabled?: boolean;
  onCommit: (value: number | null) => void;
  onPasteColumn?: (values: number[]) => void;
};

export function NumberCell(props: Props) {
  const { label, value, text, kind, unit = "mm", column, decided, disabled, onCommit, onPasteColumn } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const cancelled = useRef(false);
  const hint = useId();

  const read = (words: string) =>
    kind === "length"
      ? readNumber(words, unit)
      : kind === "hours"
        ? readHours(words)
        : readNumber(words, null);
  const understood = draft === null || draft.trim() === "" ? null : read(draft);
  const wrong = draft !== null && draft.trim() !== "" && understood === null;

  function commit(words: string) {
    setDraft(null);
    if (words.trim() === "") {
      if (decided) onCommit(null);
      return;
    }
    const next = read(words);
    if (next !== null && words !== text && Math.abs(next - value) > 1e-9) onCommit(next);
  }

  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    const input = event.currentTarget;
    if (event.key === "Escape") {
      cancelled.current = true;
      setDraft(null);
      input.blur();
    } else if (event.key === "Enter" || event.key === "ArrowDown" || event.key === "ArrowUp") {
      if (wrong) return;
      event.preventDefault();
      const next = neighbour(input, event.key === "ArrowUp" ? -1 : 1);
      if (next) next.focus();
      else input.blur();
    } else if (event.key === "ArrowLeft" && input.selectionStart === 0 && input.selectionEnd === 0) {
      sideways(input, -1)?.focus();
    } else if (event.key === "ArrowRight" && input.selectionStart === input.value.length) {
      sideways(input, 1)?.focus();
    }
  }

  function onPaste(event: ClipboardEvent<HTMLInputElement>) {
    const rows = event.clipboardData.getData("text").trim().split(/\r?\n/);
    if (rows.length < 2 || !onPasteColumn) return;
    const values = rows.map((row) => read((row.split("\t")[0] ?? "").trim()));
    if (values.some((v) => v === null)) return;
    event.preventDefault();
    setDraft(null);
    cancelled.current = true;
    onPasteColumn(values as number[]);
  }

  const shown =
    understood === null || draft === text
      ? null
      : kind === "length"
        ? `= ${lengthText(understood, unit, 3)} ${unit}`
        : kind === "hours"
          ? `= ${understood.toFixed(2)} h`
          : /[^\d.,-]/.test(draft ?? "")
            ? `= ${Number(understood.toFixed(4))}`
            : null;
  return (
    <span className="numcell">
      <input
        aria-label={label}
        aria-invalid={wrong}
        aria-describedby={shown || wrong ? hint : undefined}
        className={decided ? "decided" : undefined}
        data-column={column}
        disabled={disabled}
        inputMode="decimal"
        value={draft ?? text}
        onFocus={(event) => {
          cancelled.current = false;
          event.currentTarget.select();
        }}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => {
          if (!cancelled.current && draft !== null) commit(draft);
          else setDraft(null);
        }}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
      />
      {(shown || wrong) && (
        <span id={hint} className={wrong ? "hint debit" : "hint"} role="status">
          {wrong ? "no number" : shown}
        </span>
      )}
    </span>
  );
}

function cells(input: HTMLInputElement): HTMLInputElement[] {
  const scope = input.closest("table, form, .fields");
  return scope ? [...scope.querySelectorAll<HTMLInputElement>(".numcell input:not(:disabled)")] : [];
}

function neighbour(input: HTMLInputElement, step: number): HTMLInputElement | undefined {
  const same = cells(input).filter((one) => one.dataset.column === input.dataset.column);
  return same[same.indexOf(input) + step];
}

function sideways(input: HTMLInputElement, step: number): HTMLInputElement | undefined {
  const row = input.closest("tr");
  const all = row ? [...row.querySelectorAll<HTMLInputElement>(".numcell input:not(:disabled)")] : [];
  return all[all.indexOf(input) + step];
}
