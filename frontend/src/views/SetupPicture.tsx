/** A setup drawn to scale in SVG: vise, stock, part, zero. Views: along the jaws, and from above. */
import type { BoxView, DrawingView } from "../api/client";
import { pathOf } from "./LineDrawing";

type Props = {
  boxes: BoxView[];
  drawing: DrawingView | undefined;
  zero: [number, number];
  zeroWords: string;
  axes: [string, string];
  /** Level of the jaws' tops, where this view shows it. */
  jawTop?: { at: number; words: string };
  grip?: { from: number; to: number; x: number; words: string };
  width?: { from: number; to: number; y: number; words: string };
  label: string;
  /** Places that the zero can be put on by pointing. */
  choices?: { x: number; y: number; words: string; onChoose: () => void }[];
  /** Words stand beside the picture and not in it: it may fill its room. */
  bare?: boolean;
};

export function SetupPicture(props: Props) {
  const { boxes, drawing, zero, zeroWords, axes, jawTop, grip, width, label, bare } = props;
  const xs = [...boxes.flatMap((b) => [b.x, b.x + b.width]), zero[0]];
  const ys = [...boxes.flatMap((b) => [b.y, b.y + b.height]), zero[1]];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const span = Math.max((x1 - x0) / 1.6, y1 - y0);
  const unit = span / 100; // a hundredth of the picture, for marks that do not scale with the part
  const pad = bare
    ? { left: 2 * unit, right: 2 * unit, top: 2 * unit, bottom: 2 * unit }
    : { left: 16 * unit, right: 46 * unit, top: 24 * unit, bottom: width ? 18 * unit : 8 * unit };
  const font = (bare ? 5.5 : 4.2) * unit;
  const arrow = 16 * unit;
  return (
    <svg
      className="setup-picture"
      role={props.choices ? "group" : "img"}
      aria-label={label}
      viewBox={`${x0 - pad.left} ${-y1 - pad.top} ${x1 - x0 + pad.left + pad.right} ${y1 - y0 + pad.top + pad.bottom}`}
      style={{ fontSize: font }}
    >
      <defs>
        <pattern
          id="bed-hatch"
          width={3 * unit}
          height={3 * unit}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line x1="0" y1="0" x2="0" y2={3 * unit} stroke="var(--rule-strong)" strokeWidth={0.5 * unit} />
        </pattern>
      </defs>
      {boxes.map((b, i) =>
        b.ring.length > 0 ? (
          <polygon
            key={i}
            className={`box-${b.what}`}
            points={b.ring.map(([x, y]) => `${x},${-y}`).join(" ")}
          />
        ) : (
          <rect
            key={i}
            className={`box-${b.what}`}
            x={b.x}
            y={-b.y - b.height}
            width={b.width}
            height={b.height}
            rx={b.round ? b.width / 2 : undefined}
            fill={b.what === "bed" || b.what === "plate" ? "url(#bed-hatch)" : undefined}
          />
        ),
      )}
      {drawing && (
        <>
          <path className="part-hidden" d={drawing.hidden.map(pathOf).join("")} />
          <path className="part-visible" d={drawing.visible.map(pathOf).join("")} />
        </>
      )}
      {jawTop && (
        <g className="jaw-line">
          <line x1={x0} x2={x1 + 2 * unit} y1={-jawTop.at} y2={-jawTop.at} />
          <text x={x1 + 3 * unit} y={-jawTop.at + font / 3}>
            {jawTop.words}
          </text>
        </g>
      )}
      {grip && (
        <g className="measure">
          <path
            d={`M${grip.x} ${-grip.from}V${-grip.to}M${grip.x - 2 * unit} ${-grip.from}h${4 * unit}M${grip.x - 2 * unit} ${-grip.to}h${4 * unit}`}
          />
          <text x={grip.x - 3 * unit} y={-(grip.from + grip.to) / 2 + font / 3} textAnchor="end">
            {grip.words}
          </text>
        </g>
      )}
      {width && (
        <g className="measure">
          <path
            d={`M${width.from} ${-width.y}H${width.to}M${width.from} ${-width.y - 2 * unit}v${4 * unit}M${width.to} ${-width.y - 2 * unit}v${4 * unit}`}
          />
          <text x={(width.from + width.to) / 2} y={-width.y + 1.3 * font} textAnchor="middle">
            {width.words}
          </text>
        </g>
      )}
      {props.choices?.map((choice) => (
        <g
          key={choice.words}
          className="zero-choice"
          role="button"
          tabIndex={0}
          aria-label={`Zero at ${choice.words}`}
          transform={`translate(${choice.x} ${-choice.y})`}
          onClick={choice.onChoose}
          onKeyDown={(event) => {
            if (event.key !== "Enter" && event.key !== " ") return;
            event.preventDefault();
            choice.onChoose();
          }}
        >
          <title>{choice.words}</title>
          <circle className="reach" r={4 * unit} />
          <circle r={1.3 * unit} />
        </g>
      ))}
      <g className="zero" transform={`translate(${zero[0]} ${-zero[1]})`}>
        <path
          d={`M0 0V${-arrow}m${-1.8 * unit} ${4 * unit}l${1.8 * unit} ${-4 * unit}l${1.8 * unit} ${4 * unit}M0 0H${arrow}m${-4 * unit} ${-1.8 * unit}l${4 * unit} ${1.8 * unit}l${-4 * unit} ${1.8 * unit}`}
        />
        <circle r={2 * unit} />
        <text x={arrow + 2 * unit} y={font / 3}>
          {axes[0]}
        </text>
        <text x={2.6 * unit} y={-arrow - unit}>
          {bare ? axes[1] : `${axes[1]} · ${zeroWords}`}
        </text>
      </g>
    </svg>
  );
}
