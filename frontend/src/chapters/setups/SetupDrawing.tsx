/** The setup to scale, from the end of the jaws and from above. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type SetupView } from "../../api/client";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { SetupPicture } from "../../views/SetupPicture";

export function SetupDrawing({ setup }: { setup: SetupView }) {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const [view, setView] = useState<"end" | "top">("end");
  const drawing = useQuery({
    queryKey: ["drawing", plan.plan_id, setup.id, view, setup.up, setup.turn],
    queryFn: () => api.drawing(plan.plan_id, setup.id, view),
    placeholderData: (last) => last,
  });
  const boxes = view === "end" ? setup.end_boxes : setup.top_boxes;
  const stock = boxes.filter((b) => b.what === "stock");
  const low = Math.min(...stock.map((b) => b.x));
  const high = Math.max(...stock.map((b) => b.x + b.width));
  const floor = Math.min(...stock.map((b) => b.y));
  const lowest = Math.min(...boxes.map((b) => b.y));
  const [x, y, z] = setup.zero.point;
  const size = (v: number) => lengthText(v, unit, 1);
  const place = `${setup.zero.of}, ${setup.zero.place}, ${setup.zero.level}`;
  const jaw = boxes.find((b) => b.what === "jaw");
  return (
    <figure className="setup-figure">
      <div className="model-views" role="group" aria-label="View">
        <button
          type="button"
          className="act quiet"
          aria-pressed={view === "end"}
          onClick={() => setView("end")}
        >
          Along the jaws
        </button>
        <button
          type="button"
          className="act quiet"
          aria-pressed={view === "top"}
          onClick={() => setView("top")}
        >
          From above
        </button>
        <span className="soft">
          {setup.vise_name} · opening {size(setup.opening)} of {size(setup.opening_most)} · parallels{" "}
          {setup.parallel === null ? <em className="debit">none fits</em> : size(setup.parallel)}
        </span>
      </div>
      {view === "end" ? (
        <SetupPicture
          boxes={boxes}
          drawing={drawing.data}
          zero={[y, z]}
          zeroWords={place}
          axes={["Y", "Z"]}
          jawTop={{
            at: setup.jaw_top,
            words: `jaws ${size(Math.abs(z - setup.jaw_top))} ${z >= setup.jaw_top ? "below" : "above"} zero`,
          }}
          grip={{
            from: floor,
            to: setup.jaw_top,
            x: jaw ? jaw.x + jaw.width - 3 : low,
            words: `grip ${size(setup.grip)}`,
          }}
          width={{ from: low, to: high, y: lowest - 4, words: `${size(high - low)} ${unit}` }}
          label={`Setup ${setup.id} along the jaws: ${setup.vise_name}, grip ${setup.grip}`}
        />
      ) : (
        <SetupPicture
          boxes={boxes}
          drawing={drawing.data}
          zero={[x, y]}
          zeroWords={place}
          axes={["X", "Y"]}
          width={{ from: low, to: high, y: lowest - 4, words: `${size(high - low)} ${unit}` }}
          label={`Setup ${setup.id} from above`}
        />
      )}
      <figcaption>
        {setup.zero.touch_off.map((line) => (
          <span key={line}>{line}</span>
        ))}
      </figcaption>
    </figure>
  );
}
