/** The load on the setup sheet: all pieces drawn with their numbers, and where to touch off each. */
import { useQuery } from "@tanstack/react-query";
import { Table } from "react-bootstrap";
import { api, type SetupView } from "../../api/client";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { travelWords } from "../layout/LoadDrawing";
import { BarPicture } from "../../views/BarPicture";
import { LoadPicture } from "../../views/LoadPicture";

export function PaperLoad({ setup }: { setup: SetupView }) {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const found = useQuery({
    queryKey: ["layout", plan.plan_id, plan.edition],
    queryFn: () => api.layout(plan.plan_id),
  });
  const load = found.data?.find((one) => one.setups.some((kind) => kind.setup === setup.id));
  if (!load) return null;
  const own = load.pieces.filter((piece) => piece.setup === setup.id);
  return (
    <div className="paper-load">
      {load.bar ? (
        <BarPicture bar={load.bar} text={(length) => lengthText(length, unit)} />
      ) : (
        <LoadPicture load={load} drawings={{}} travel={travelWords(load, unit)} />
      )}
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th className="n">Piece</th>
            <th>In</th>
            <th>Offset</th>
            <th className="n">Zero X {unit}</th>
            <th className="n">Y</th>
            <th className="n">Z</th>
          </tr>
        </thead>
        <tbody>
          {own.map((piece) => (
            <tr key={piece.id}>
              <td className="n">{piece.id}</td>
              <td>
                {piece.group}
                {piece.turn > 0 && `, turned ${piece.turn}°`}
              </td>
              <td>{piece.offset || "none left"}</td>
              {([0, 1, 2] as const).map((axis) => (
                <td key={axis} className="n">
                  {lengthText(piece.zero[axis], unit)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}
