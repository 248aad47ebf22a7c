/** The setup to scale, from the end of the jaws and from above. */
import { useQuery } from "@tanstack/react-query";
import { api, type BoxView, type Change, type SetupView } from "../../api/client";
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
  const [x, y, z] = setup.zero.point;
  const place = setup.zero.words;
  const jaw = setup.end_boxes.find((b) => b.what === "jaw");
  const across = span(setup.end_boxes);
  const along = span(setup.top_boxes);
  const side = z >= setup.jaw_top ? "below" : "above";
  return (
    <figure className="setup-figure">
      <p className="soft">
        {setup.vise_name} · opening {size(setup.opening)} of {size(setup.opening_most)} · parallels{" "}
        {setup.parallel === null ? <em className="debit">none fits</em> : size(setup.parallel)}
      </p>
      <SetupPicture
        boxes={setup.end_boxes}
        drawing={end}
        zero={[y, z]}
        zeroWords={place}
        axes={["Y", "Z"]}
        jawTop={{ at: setup.jaw_top, words: `jaws ${size(Math.abs(z - setup.jaw_top))} ${side} zero` }}
        grip={{
          from: across.floor,
          to: setup.jaw_top,
          x: jaw ? jaw.x + jaw.width - 3 : across.low,
          words: `grip ${size(setup.grip)}`,
        }}
        width={{
          from: across.low,
          to: across.high,
          y: Math.min(...setup.end_boxes.map((b) => b.y)) - 4,
          words: `${size(across.high - across.low)} ${unit}`,
        }}
        label={`Setup ${setup.id} along the jaws: ${setup.vise_name}, grip ${size(setup.grip)}`}
      />
      <div className="setup-below">
        <SetupPicture
          boxes={setup.top_boxes}
          drawing={top}
          zero={[x, y]}
          zeroWords={place}
          axes={["X", "Y"]}
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
              } as Change),
          }))}
          bare
        />
        <figcaption>
          <b>From above, {size(along.high - along.low)} long</b>
          {setup.zero.touch_off.map((line) => (
            <span key={line}>{line}</span>
          ))}
        </figcaption>
      </div>
    </figure>
  );
}

/** Stock and part lie too close to point at both: those of the one that the zero is of, and the bores. */
function pointable({ zero }: SetupView) {
  const of = zero.of === "stock" ? "stock" : "part";
  return zero.choices.filter((choice) => choice.of === of || choice.of === "bore");
}

function useLines(setup: SetupView, view: "end" | "top") {
  const { plan } = useDesk();
  return useQuery({
    queryKey: ["drawing", plan.plan_id, setup.id, view, setup.up, setup.turn],
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
  };
}
