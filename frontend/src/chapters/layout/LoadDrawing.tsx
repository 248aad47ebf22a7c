/** The load from above, to scale, on the page: dragged, moved by keys, each piece with its number and its offset. */
import { useQuery } from "@tanstack/react-query";
import { api, type LayoutView, type SetupView } from "../../api/client";
import { lengthText, type Unit } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { LoadPicture } from "../../views/LoadPicture";
import { movedTo } from "./moved";

export function LoadDrawing({ load, setup }: { load: LayoutView; setup: SetupView }) {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const drawing = useQuery({
    queryKey: ["drawing", plan.plan_id, setup.id, "top", setup.up, setup.turn],
    queryFn: () => api.drawing(plan.plan_id, setup.id, "top"),
    enabled: load.drawn !== null,
  });
  return (
    <figure className="load-drawing">
      <LoadPicture
        load={load}
        drawing={drawing.data}
        travel={travelWords(load, unit)}
        onMove={(piece, to) => void change(movedTo(load.load, piece, to))}
      />
      <figcaption>
        {load.pieces.length > 1
          ? "Drag a piece, or give it the focus and press an arrow: 1 mm, 10 with Shift. It falls into line with others."
          : load.spins
            ? `One piece in ${setup.machine_name}, seen along the spindle.`
            : `One piece as it stands on ${setup.machine_name}; its travel is the thin frame.`}
      </figcaption>
    </figure>
  );
}

/** The frame of a table's travels, in the unit that is shown. */
export function travelWords(load: LayoutView, unit: Unit): string {
  const [x, y] = load.travel;
  return `travel ${lengthText(x[1] - x[0], unit, 0)} × ${lengthText(y[1] - y[0], unit, 0)} ${unit}`;
}
