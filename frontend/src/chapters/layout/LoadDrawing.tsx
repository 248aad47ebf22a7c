/** The load from above, to scale, on the page: dragged, moved by keys, each piece with its number and its offset. */
import { useQueries } from "@tanstack/react-query";
import { api, type LayoutView, type PieceView } from "../../api/client";
import { lengthText, type Unit } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { LoadPicture } from "../../views/LoadPicture";
import type { Ahead } from "./ahead";
import { movedTo, turnedOn, turnedTo } from "./moved";

export function LoadDrawing({ load, ahead }: { load: LayoutView; ahead: Ahead }) {
  const { plan, change } = useDesk();
  const { unit } = useUnit();
  const setups = plan.setups.filter((one) => load.setups.some((kind) => kind.setup === one.id));
  const found = useQueries({
    queries: setups.map((setup) => ({
      queryKey: ["drawing", plan.plan_id, setup.id, "top", setup.up, setup.turn],
      queryFn: () => api.drawing(plan.plan_id, setup.id, "top"),
      enabled: load.setups.some((kind) => kind.setup === setup.id && kind.drawn !== null),
    })),
  });
  const drawings = Object.fromEntries(setups.map((setup, k) => [setup.id, found[k]?.data]));
  const move = (piece: PieceView, by: [number, number]) => {
    const { moved } = ahead.of(piece);
    const to: [number, number] = [moved[0] + by[0], moved[1] + by[1]];
    void ahead.tell(piece, { moved: to }, change(movedTo(load.load, piece, to)));
  };
  const turn = (piece: PieceView, quarters: number) => {
    const to = turnedOn(ahead.of(piece).turn, quarters);
    void ahead.tell(piece, { turn: to }, change(turnedTo(load.load, piece, to)));
  };
  return (
    <figure className="load-drawing">
      <LoadPicture
        load={load}
        drawings={drawings}
        travel={travelWords(load, unit)}
        onMove={move}
        onTurn={load.not_turned ? undefined : turn}
      />
      <figcaption>
        {load.pieces.some((piece) => piece.in_bar > 0)
          ? `${load.joined?.together ?? 0} pieces stay in one ${load.joined?.word ?? "bar"} until they are sawn apart.`
          : load.pieces.length > 1
            ? `Drag a piece, or give it the focus and press an arrow: 1 mm, 10 with Shift. It falls into line with others.${load.not_turned ? "" : " R turns it."}`
            : load.spins
              ? `One piece in ${load.machine}, seen along the spindle.`
              : `One piece as it stands on ${load.machine}; its travel is the thin frame.`}
      </figcaption>
    </figure>
  );
}

/** The frame of a table's travels, in the unit that is shown. */
export function travelWords(load: LayoutView, unit: Unit): string {
  const [x, y] = load.travel;
  return `travel ${lengthText(x[1] - x[0], unit, 0)} × ${lengthText(y[1] - y[0], unit, 0)} ${unit}`;
}
