/** A span of time that is looked at: closer and farther, earlier and later, and where its ticks are. */
export type Span = [from: number, to: number];

const LEAST = 0.05; // s that are shown at the least
const TICKS = [0.005, 0.01, 0.05, 0.1, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800];

/** Ticks of a span, and the digits of a second that they need. */
export function ticksOf([from, to]: Span): { at: number[]; digits: number } {
  const step = TICKS.find((s) => (to - from) / s <= 11) ?? 3600;
  const first = Math.ceil(from / step - 1e-9);
  const count = Math.floor(to / step + 1e-9) - first + 1;
  return {
    at: Array.from({ length: count }, (_, i) => (first + i) * step),
    digits: step < 0.01 ? 3 : step < 0.1 ? 2 : step < 1 ? 1 : 0,
  };
}

/** Within a cycle of `total` seconds, so many times as long a span, about a time that keeps its place. */
export function zoomed([from, to]: Span, total: number, factor: number, about: number): Span {
  const wide = Math.min(total, Math.max(LEAST, (to - from) * factor));
  const start = Math.min(Math.max(0, about - ((about - from) * wide) / (to - from)), total - wide);
  return [start, start + wide];
}

export function shifted([from, to]: Span, total: number, by: number): Span {
  const start = Math.min(Math.max(0, from + by), total - (to - from));
  return [start, start + (to - from)];
}

/** What a key asks of a span; undefined for any other key. */
export function keyed(key: string, span: Span, total: number, about: number): Span | undefined {
  const quarter = (span[1] - span[0]) / 4;
  if (key === "+" || key === "=") return zoomed(span, total, 0.5, about);
  if (key === "-") return zoomed(span, total, 2, about);
  if (key === "ArrowLeft") return shifted(span, total, -quarter);
  if (key === "ArrowRight") return shifted(span, total, quarter);
  if (key === "Home") return [0, total];
  return undefined;
}

export function clockMs(seconds: number, digits: number): string {
  const minutes = Math.floor(seconds / 60 + 1e-9);
  const rest = Math.max(0, seconds - 60 * minutes);
  return `${minutes}:${rest.toFixed(digits).padStart(digits ? digits + 3 : 2, "0")}`;
}
