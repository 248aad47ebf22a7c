/** A setup drawn to scale in SVG: vise, stock, part, zero. Views: along the jaws, and from above. */
import type { BoxView, DrawingView } from "../api/client";
import type { ReactNode } from "react";

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
  /** As a spindle or a rotary lies: what is up in these values points to the right, what holds stands at the left. */
  lying?: boolean;
};

type Point = readonly [number, number];

export function SetupPicture(props: Props) {
  const { boxes, drawing, zero, zeroWords, axes, jawTop, grip, width, label, bare, lying } = props;
  /** A place in the values' own axes, y upward, as one in the picture, y downward. */
  const at = (x: number, y: number): Point => (lying ? [y, -x] : [x, -y]);
  const path = (...points: Point[]) => points.map((p, i) => `${i ? "L" : "M"}${p[0]} ${p[1]}`).join("");
  const corners = [...boxes.flatMap((b) => [at(b.x, b.y), at(b.x + b.width, b.y + b.height)]), at(...zero)];
  const xs = corners.map((p) => p[0]);
  const ys = corners.map((p) => -p[1]);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const reach = boxes.flatMap((b) => [b.x, b.x + b.width]);
  const [near, far] = [Math.min(...reach, zero[0]), Math.max(...reach, zero[0])];
  const span = Math.max((x1 - x0) / 1.6, y1 - y0);
  const unit = span / 100; // a hundredth of the picture, for marks that do not scale with the part
  /** Hundredths that the words at the zero's arrow need beyond what is drawn at its right. */
  const words = 20 + 2.3 * `${axes[1]} · ${zeroWords}`.length - (x1 - at(...zero)[0]) / unit;
  const pad = bare
    ? { left: 2 * unit, right: 2 * unit, top: 2 * unit, bottom: 2 * unit }
    : lying
      ? { left: 30 * unit, right: Math.max(34, words) * unit, top: 14 * unit, bottom: 12 * unit }
      : { left: 16 * unit, right: 46 * unit, top: 24 * unit, bottom: width ? 18 * unit : 8 * unit };
  const font = (bare ? 5.5 : 4.2) * unit;
  const arrow = 16 * unit;
  const lineOf = (line: readonly (readonly number[])[]) =>
    path(...line.map((p): Point => at(p[0] ?? 0, p[1] ?? 0)));
  const placed = bare ? axes[1] : `${axes[1]} · ${zeroWords}`;
  const [right, up] = lying ? [placed, axes[0]] : [axes[0], placed];
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
            points={b.ring.map(([x, y]) => at(x, y).join(",")).join(" ")}
          />
        ) : (
          <rect
            key={i}
            className={`box-${b.what}`}
            x={lying ? b.y : b.x}
            y={lying ? -b.x - b.width : -b.y - b.height}
            width={lying ? b.height : b.width}
            height={lying ? b.width : b.height}
            rx={b.round ? b.width / 2 : undefined}
            fill={b.what === "bed" || b.what === "plate" ? "url(#bed-hatch)" : undefined}
          />
        ),
      )}
      {drawing && (
        <>
          <path className="part-hidden" d={drawing.hidden.map(lineOf).join("")} />
          <path className="part-visible" d={drawing.visible.map(lineOf).join("")} />
        </>
      )}
      {jawTop && (
        <g className="jaw-line">
          <path d={path(at(near, jawTop.at), at(far + 2 * unit, jawTop.at))} />
          <Words
            at={at(far + 3 * unit, jawTop.at)}
            dx={0}
            dy={lying ? -0.3 * font : font / 3}
            anchor={lying ? "middle" : "start"}
          >
            {jawTop.words}
          </Words>
        </g>
      )}
      {grip && (
        <g className="measure">
          <path
            d={
              path(at(grip.x, grip.from), at(grip.x, grip.to)) +
              [grip.from, grip.to]
                .map((y) => path(at(grip.x - 2 * unit, y), at(grip.x + 2 * unit, y)))
                .join("")
            }
          />
          <Words
            at={at(grip.x, (grip.from + grip.to) / 2)}
            dx={lying ? 0 : -3 * unit}
            dy={lying ? 1.6 * font : font / 3}
            anchor={lying ? "middle" : "end"}
          >
            {grip.words}
          </Words>
        </g>
      )}
      {width && (
        <g className="measure">
          <path
            d={
              path(at(width.from, width.y), at(width.to, width.y)) +
              [width.from, width.to]
                .map((x) => path(at(x, width.y - 2 * unit), at(x, width.y + 2 * unit)))
                .join("")
            }
          />
          <Words
            at={at(lying ? width.to : (width.from + width.to) / 2, width.y)}
            dx={lying ? 3 * unit : 0}
            dy={lying ? font : 1.3 * font}
            anchor={lying ? "start" : "middle"}
          >
            {width.words}
          </Words>
        </g>
      )}
      {props.choices?.map((choice) => (
        <g
          key={choice.words}
          className="zero-choice"
          role="button"
          tabIndex={0}
          aria-label={`Zero at ${choice.words}`}
          transform={`translate(${at(choice.x, choice.y).join(" ")})`}
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
      <g className="zero" transform={`translate(${at(...zero).join(" ")})`}>
        <path
          d={`M0 0V${-arrow}m${-1.8 * unit} ${4 * unit}l${1.8 * unit} ${-4 * unit}l${1.8 * unit} ${4 * unit}M0 0H${arrow}m${-4 * unit} ${-1.8 * unit}l${4 * unit} ${1.8 * unit}l${-4 * unit} ${1.8 * unit}`}
        />
        <circle r={2 * unit} />
        <text x={arrow + 2 * unit} y={font / 3}>
          {right}
        </text>
        <text x={2.6 * unit} y={-arrow - unit}>
          {up}
        </text>
      </g>
    </svg>
  );
}

function Words(props: {
  at: Point;
  dx: number;
  dy: number;
  anchor: "start" | "middle" | "end";
  children: ReactNode;
}) {
  return (
    <text x={props.at[0] + props.dx} y={props.at[1] + props.dy} textAnchor={props.anchor}>
      {props.children}
    </text>
  );
}
