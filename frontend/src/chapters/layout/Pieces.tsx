/** The pieces of a load, one a row: where each zero is, its angle, its offset, whether its blocks can be skipped. */
import { Form, Table } from "react-bootstrap";
import type { LayoutView, PieceView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { lengthText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { shifted } from "./moved";

export function Pieces({ load }: { load: LayoutView }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const rotary = load.pieces.some((piece) => piece.side !== null);
  const several = load.pieces.length > 1;
  const skipped = load.pieces.filter((piece) => piece.skipped).map((piece) => piece.id);
  const skip = (pieces: string[]) => void change({ change: "skip-pieces", load: load.load, pieces });
  const name = (piece: PieceView, word: string) =>
    void change({ change: "set-offsets", load: load.load, named: [[piece.id, word]] });
  return (
    <>
      <h2>
        Pieces{" "}
        <span>
          {several &&
            (skipped.length > 0 ? (
              <button type="button" className="act quiet" onClick={() => skip([])}>
                Skip none
              </button>
            ) : (
              <button
                type="button"
                className="act quiet"
                onClick={() => skip(load.pieces.slice(1).map((piece) => piece.id))}
              >
                Prove out on piece 1 alone
              </button>
            ))}
        </span>
      </h2>
      <Table bsPrefix="ledger-table" className="pieces">
        <thead>
          <tr>
            <th scope="col">Piece</th>
            {several && <th scope="col">{rotary ? "Side" : "Row"}</th>}
            <th scope="col" className="n">
              Zero X
            </th>
            <th scope="col" className="n">
              Y
            </th>
            <th scope="col" className="n">
              Z
            </th>
            <th scope="col">Offset</th>
            {several && <th scope="col">Block skip</th>}
          </tr>
        </thead>
        <tbody>
          {load.pieces.map((piece) => (
            <tr key={piece.id}>
              <th scope="row">{piece.id}</th>
              {several && <td>{piece.side === null ? piece.row + 1 : `${piece.side}°`}</td>}
              {([0, 1] as const).map((axis) => (
                <td key={axis} className="n">
                  {several ? (
                    <NumberCell
                      label={`Zero ${"XY"[axis]} of piece ${piece.id}`}
                      column={`zero-${axis}`}
                      kind="length"
                      unit={unit}
                      value={piece.zero[axis]}
                      text={lengthText(piece.zero[axis], unit)}
                      decided={piece.moved[axis] !== 0}
                      onCommit={(value) =>
                        void change(
                          shifted(load, piece, axis, value === null ? null : value - piece.zero[axis]),
                        )
                      }
                    />
                  ) : (
                    lengthText(piece.zero[axis], unit)
                  )}
                </td>
              ))}
              <td className="n">{lengthText(piece.zero[2], unit)}</td>
              <td>
                <Form.Select
                  bsPrefix="choice"
                  aria-label={`Offset of piece ${piece.id}`}
                  className={piece.named ? "decided" : undefined}
                  value={piece.named ? piece.offset : ""}
                  onChange={(event) => name(piece, event.target.value)}
                >
                  <option value="">{piece.named ? "by the rule" : piece.offset || "none left"}</option>
                  {load.words.map((word) => (
                    <option key={word}>{word}</option>
                  ))}
                </Form.Select>
              </td>
              {several && (
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Piece ${piece.id} can be skipped`}
                    checked={piece.skipped}
                    onChange={(event) =>
                      skip(
                        event.target.checked
                          ? [...skipped, piece.id]
                          : skipped.filter((one) => one !== piece.id),
                      )
                    }
                  />
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}
