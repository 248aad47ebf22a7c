/** A program's lines; the chosen one is kept in sight, and the arrow keys go from line to line. */
import { memo, useEffect, useMemo, useRef, type KeyboardEvent } from "react";

export function ProgramText(props: { text: string; line: number | null; onLine: (line: number) => void }) {
  const { text, line, onLine } = props;
  const lines = useMemo(() => text.trimEnd().split("\n"), [text]);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (line !== null) box.current?.querySelector(`#line-${line}`)?.scrollIntoView({ block: "nearest" });
  }, [line]);
  const key = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 20, PageUp: -20 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onLine(Math.min(lines.length, Math.max(1, (line ?? 0) + by)));
  };
  return (
    <div
      ref={box}
      className="program-text"
      role="listbox"
      aria-label="Program"
      tabIndex={0}
      aria-activedescendant={line === null ? undefined : `line-${line}`}
      onKeyDown={key}
      onClick={(event) => {
        const at = event.target instanceof Element ? event.target.closest<HTMLElement>("[data-line]") : null;
        if (at) onLine(Number(at.dataset.line));
      }}
    >
      {lines.map((words, i) => (
        <Line key={i} number={i + 1} words={words} chosen={line === i + 1} />
      ))}
    </div>
  );
}

const Line = memo(function Line(props: { number: number; words: string; chosen: boolean }) {
  const { number, words, chosen } = props;
  const tone = words.startsWith("(") ? "said" : /^O\d/.test(words) ? "head" : undefined;
  return (
    <div id={`line-${number}`} data-line={number} role="option" aria-selected={chosen} className={tone}>
      <span className="number">{number}</span>
      {words || " "}
    </div>
  );
});
