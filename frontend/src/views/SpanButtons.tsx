/** Closer, farther, earlier, later: what of a cycle's time is looked at. */
import type { ReactNode } from "react";
import { shifted, zoomed, type Span } from "./timeAxis";

export function SpanButtons(props: {
  span: Span;
  total: number;
  about: number;
  onSpan: (span: Span) => void;
  children?: ReactNode;
}) {
  const { span, total, about, onSpan } = props;
  const [from, to] = span;
  const button = (words: string, then: Span, disabled = false) => (
    <button type="button" className="act" onClick={() => onSpan(then)} disabled={disabled}>
      {words}
    </button>
  );
  const half = (to - from) / 2;
  return (
    <div className="cures" role="group" aria-label="Look at the time strip">
      {button("Closer", zoomed(span, total, 0.5, about))}
      {button("Farther", zoomed(span, total, 2, (from + to) / 2), to - from >= total)}
      {button("Earlier", shifted(span, total, -half), from <= 0)}
      {button("Later", shifted(span, total, half), to >= total - 1e-9)}
      {button("Whole cycle", [0, total], to - from >= total)}
      {props.children}
    </div>
  );
}
