/** The setup to scale, from the end of the jaws and from above. */
import { useQuery } from "@tanstack/react-query";
import { api, type BoxView, type SetupView } from "../../api/client";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { SetupPicture } from "../../views/SetupPicture";

export function SetupDrawing({ setup }: { setup: SetupView }) {
  const { unit } = useUnit();
  const { change } = useDesk();
  const end = useLines(setup, "end");
  const top = useLines(setup, "top");
  const size = (v: number) => lengthText(v, unit, 1);
  const { hold } = setup;
  const [x, y, z] = hold.zero;
  const place = setup.zero.words;
  const jaw = setup.end_boxes.find((b) => b.what === "jaw" || b.what === "clamp" || b.what === "chuck");
  const across = span(setup.end_boxes);
  const along = span(setup.top_boxes);
  const [ax, ay, az] = hold.axes as [string, string, string];
  const what = hold.gripped_by;
  return (
    <figure className="setup-figure">
      <p className="soft">
        {hold.name} · {hold.touches}
        {hold.ways.length > 1 &&
          ` · from ${hold.ways.map((w) => `${w.side} at ${w.tilt ? `${w.tilt}°/` : ""}${w.angle}°`).join(", ")}`}
      </p>
      <SetupPicture
        boxes={setup.end_boxes}
        drawing={end}
        zero={[y, z]}
        zeroWords={place}
        axes={[hold.spins ? ax : ay, az]}
        lying={hold.horizontal}
        jawTop={
          hold.top === null
            ? undefined
            : {
                at: hold.top,
                words: `${what} ${size(Math.abs(z - hold.top))} ${z < hold.top ? (hold.horizontal ? "before" : "above") : hold.horizontal ? "behind" : "below"} zero`,
              }
        }
        grip={
          hold.top === null
            ? undefined
            : {
                from: across.floor,
                to: hold.top,
                x: jaw && !hold.horizontal ? jaw.x + jaw.width - 3 : across.low - (hold.horizontal ? 4 : 0),
                words: `grip ${size(hold.grip)}`,
              }
        }
        width={{
          from: across.low,
          to: across.high,
          y: hold.horizontal ? across.ceiling + 6 : Math.min(...setup.end_boxes.map((b) => b.y)) - 4,
          words: `${size(across.high - across.low)} ${unit}`,
        }}
        label={`Setup ${setup.id} from the side: ${hold.name}, ${hold.touches}`}
      />
      <div className="setup-below">
        <SetupPicture
          boxes={setup.top_boxes}
          drawing={top}
          zero={[x, y]}
          zeroWords={place}
          axes={[ax, ay]}
          label={`Setup ${setup.id} from above`}
          choices={pointable(setup).map((choice) => ({
            ...choice,
            words: choice.of === "bore" ? `bore ${choice.bore}` : `${choice.of}, ${choice.place}`,
            onChoose: () =>
              void change({
                change: "set-zero",
                setup: setup.id,
                of: choice.of,
                place: choice.place,
                level: setup.zero.level,
                bore: choice.bore,
              }),
          }))}
          bare
        />
        <figcaption>
          <b>
            {hold.free ? `From the free end ${hold.free}` : hold.spins ? "From the free end" : "From above"},{" "}
            {size(along.high - along.low)} {hold.free || hold.spins ? "across" : "long"}
          </b>
          {setup.zero.touch_off.map((line) => (
            <span key={line}>{line}</span>
          ))}
        </figcaption>
      </div>
    </figure>
  );
}

/** Stock and part lie too close to point at both: those of the one that the zero is of, and the bores. */
function pointable({ zero, hold }: SetupView) {
  if (hold.free) return []; // seen along the rotary's axis, corners lie over one another
  const of = zero.of === "stock" ? "stock" : "part";
  return zero.choices.filter((choice) => choice.of === of || choice.of === "bore");
}

function useLines(setup: SetupView, view: "end" | "top") {
  const { plan } = useDesk();
  return useQuery({
    queryKey: [
      "drawing",
      plan.plan_id,
      setup.id,
      view,
      setup.up,
      setup.turn,
      setup.hold.free,
      setup.hold.fixture,
    ],
    queryFn: () => api.drawing(plan.plan_id, setup.id, view),
    placeholderData: (last) => last,
  }).data;
}

/** How far the stock reaches in a view. */
function span(boxes: BoxView[]) {
  const stock = boxes.filter((b) => b.what === "stock");
  return {
    low: Math.min(...stock.map((b) => b.x)),
    high: Math.max(...stock.map((b) => b.x + b.width)),
    floor: Math.min(...stock.map((b) => b.y)),
    ceiling: Math.max(...stock.map((b) => b.y + b.height)),
  };
}
