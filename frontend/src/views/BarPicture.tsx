/** A bar along its length, as one advance stands out of the collet: pieces, what is cut away, all of it as dimensions. */
import type { LayoutView } from "../api/client";

type Bar = NonNullable<LayoutView["bar"]>;
type Span = { from: number; to: number; words: string; level: number };

const WIDE = 640;
const NOSE = 46;
const LINE = 22;

type Props = {
  bar: Bar;
  /** A length in words, in the unit that is shown. */
  text: (length: number) => string;
};

export function BarPicture({ bar, text }: Props) {
  const scale = Math.min((WIDE - NOSE - 60) / bar.stands_out, 150 / bar.thick);
  const at = (z: number) => NOSE + z * scale;
  const high = bar.thick * scale;
  const top = 3 * LINE;
  const front = bar.stands_out - bar.front;
  const pieces = bar.fronts.map((z) => ({ to: front + z, from: front + z - bar.length }));
  const last = pieces[pieces.length - 1] ?? { from: 0, to: 0 };
  const first = pieces[0] ?? last;
  const spans: Span[] = [
    { from: first.from, to: first.to, words: `piece ${text(bar.length)}`, level: -1 },
    { from: front, to: bar.stands_out, words: `to face ${text(bar.front)}`, level: -2 },
    { from: last.from - bar.back, to: last.from, words: `left ${text(bar.back)}`, level: 1 },
    {
      from: last.from - bar.back - bar.cut_off,
      to: last.from - bar.back,
      words: `blade ${text(bar.cut_off)}`,
      level: 2,
    },
    { from: front + bar.reach, to: bar.stands_out, words: `advance ${text(bar.advance)}`, level: 3 },
    { from: 0, to: bar.stands_out, words: `stands out ${text(bar.stands_out)}`, level: 4 },
  ];
  const jaws = bar.gripped === null ? null : { from: first.to - bar.gripped, to: first.to };
  if (jaws && bar.free !== null)
    spans.push(
      { ...jaws, words: `counter spindle ${text(jaws.to - jaws.from)}`, level: 5 },
      { from: jaws.from - bar.free, to: jaws.from, words: `free ${text(bar.free)}`, level: 5 },
    );
  return (
    <svg
      className="bar-picture"
      role="img"
      aria-label={`${bar.per_advance} piece${bar.per_advance > 1 ? "s" : ""} of an advance of the bar`}
      viewBox={`0 0 ${WIDE} ${top + high + (jaws ? 6.5 : 5.5) * LINE}`}
    >
      <rect className="nose" x={0} y={top - 14} width={NOSE} height={high + 28} />
      <rect className="rest" x={0} y={top} width={at(bar.stands_out)} height={high} />
      {pieces.map((piece, k) => (
        <g key={k}>
          <rect
            className="cut-away"
            x={at(piece.from - bar.back - bar.cut_off)}
            y={top}
            width={bar.cut_off * scale}
            height={high}
          />
          <rect
            className="bar-piece"
            x={at(piece.from)}
            y={top}
            width={(piece.to - piece.from) * scale}
            height={high}
          />
          <text x={at((piece.from + piece.to) / 2)} y={top + high / 2 + 5} textAnchor="middle">
            {k + 1}
          </text>
        </g>
      ))}
      {jaws &&
        [top - 14, top + high].map((y) => (
          <rect
            key={y}
            className="nose"
            x={at(jaws.from)}
            y={y}
            width={(jaws.to - jaws.from) * scale + NOSE}
            height={14}
          />
        ))}
      <path className="axis" d={`M0 ${top + high / 2}H${at(bar.stands_out) + 18}`} />
      {spans.map((span) => (
        <Dimension key={span.words} span={span} at={at} top={top} high={high} />
      ))}
    </svg>
  );
}

type DimensionProps = { span: Span; at: (z: number) => number; top: number; high: number };

/** A dimension line; where its words do not go between its ends they stand behind them. */
function Dimension({ span, at, top, high }: DimensionProps) {
  const y = span.level < 0 ? top + span.level * LINE + 4 : top + high + span.level * LINE;
  const [a, b] = [at(span.from), at(span.to)];
  const inside = b - a > 8 * span.words.length;
  const edge = span.level < 0 ? top : top + high;
  return (
    <g className="dimension">
      <path d={`M${a} ${edge}V${y}M${b} ${edge}V${y}`} />
      <path className="line" d={`M${a} ${y}H${b}M${a} ${y - 3}v6M${b} ${y - 3}v6`} />
      <text
        x={inside ? (a + b) / 2 : a > WIDE / 2 ? a - 6 : b + 6}
        y={y + (inside ? -4 : 4)}
        textAnchor={inside ? "middle" : a > WIDE / 2 ? "end" : "start"}
      >
        {span.words}
      </text>
    </g>
  );
}
