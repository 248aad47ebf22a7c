/** The pieces of a load, one a row: where each zero is, its angle, its offset, whether its blocks can be skipped. */
import { memo, useState } from "react";
import { Table } from "react-bootstrap";
import type { LayoutView, PieceView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { lengthText } from "../../shell/numbers";
import { useActions } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import type { Ahead } from "./ahead";
import { shifted, TURNS, turnedTo } from "./moved";

export function Pieces({ load, ahead }: { load: LayoutView; ahead: Ahead }) {
  const { change } = useActions();
  const several = load.pieces.length > 1;
  const skipped = load.pieces.filter((piece) => piece.skipped).map((piece) => piece.id);
  const skip = (pieces: string[]) => void change({ change: "skip-pieces", load: load.load, pieces });
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
            {load.setups.length > 1 && <th scope="col">Setup</th>}
            {several && (
              <th scope="col">
                {load.sides.length > 0 ? "Side" : load.bar || (load.joined?.pieces ?? 1) > 1 ? "In" : "Row"}
              </th>
            )}
            <th scope="col" className="n">
              Zero X
            </th>
            <th scope="col" className="n">
              Y
            </th>
            <th scope="col" className="n">
              Z
            </th>
            {!load.not_turned && <th scope="col">Turned</th>}
            <th scope="col">Offset</th>
            {several && <th scope="col">Block skip</th>}
          </tr>
        </thead>
        <tbody>
          {load.pieces.map((piece) => (
            <Row
              key={piece.id}
              load={load.load}
              words={load.words}
              piece={piece}
              several={several}
              mixed={load.setups.length > 1}
              movable={several && load.bar === null && !piece.in_bar}
              turnable={!load.not_turned}
              ahead={ahead}
              skipped={skipped}
            />
          ))}
        </tbody>
      </Table>
    </>
  );
}

type RowProps = {
  load: string;
  words: string[];
  piece: PieceView;
  several: boolean;
  mixed: boolean;
  movable: boolean;
  turnable: boolean;
  ahead: Ahead;
  skipped: string[];
};

const Row = memo(function Row(props: RowProps) {
  const { load, words, piece, several, mixed, movable, turnable, ahead, skipped } = props;
  const { change } = useActions();
  const { unit } = useUnit();
  return (
    <tr>
      <th scope="row" className={piece.trouble ? "debit" : undefined} title={piece.trouble || undefined}>
        {piece.id}
      </th>
      {mixed && <td>{piece.setup}</td>}
      {several && <td>{piece.side !== null ? `${piece.side}°` : movable ? piece.row + 1 : piece.group}</td>}
      {([0, 1] as const).map((axis) => (
        <td key={axis} className="n">
          {movable ? (
            <NumberCell
              label={`Zero ${"XY"[axis]} of piece ${piece.id}`}
              column={`zero-${axis}`}
              kind="length"
              unit={unit}
              value={piece.zero[axis]}
              text={lengthText(piece.zero[axis], unit)}
              decided={piece.moved[axis] !== 0}
              onCommit={(value) =>
                void change(shifted(load, piece, axis, value === null ? null : value - piece.zero[axis]))
              }
            />
          ) : (
            lengthText(piece.zero[axis], unit)
          )}
        </td>
      ))}
      <td className="n">{lengthText(piece.zero[2], unit)}</td>
      {turnable && (
        <td>
          <select
            className={piece.turn ? "choice decided" : "choice"}
            aria-label={`Turn of piece ${piece.id}`}
            value={piece.turn}
            onChange={(event) => {
              const turn = TURNS[event.target.selectedIndex] ?? 0;
              void ahead.tell(piece, { turn }, change(turnedTo(load, piece, turn)));
            }}
          >
            {TURNS.map((turn) => (
              <option key={turn} value={turn}>
                {turn}°
              </option>
            ))}
          </select>
        </td>
      )}
      <td>
        <OffsetOf load={load} words={words} piece={piece} />
      </td>
      {several && (
        <td>
          <input
            type="checkbox"
            aria-label={`Piece ${piece.id} can be skipped`}
            checked={piece.skipped}
            onChange={(event) =>
              void change({
                change: "skip-pieces",
                load,
                pieces: event.target.checked
                  ? [...skipped, piece.id]
                  : skipped.filter((one) => one !== piece.id),
              })
            }
          />
        </td>
      )}
    </tr>
  );
}, sameRow);

/** What a row shows is the same: the others' skips matter once one is changed, and are in the load's own answer. */
function sameRow(a: RowProps, b: RowProps): boolean {
  return (
    a.several === b.several &&
    a.mixed === b.mixed &&
    a.movable === b.movable &&
    a.turnable === b.turnable &&
    a.ahead === b.ahead &&
    a.load === b.load &&
    a.words.length === b.words.length &&
    a.skipped.join() === b.skipped.join() &&
    JSON.stringify(a.piece) === JSON.stringify(b.piece)
  );
}

/** All words of a control are listed once the choice is gone to: many pieces would carry thousands of them. */
function OffsetOf({ load, words, piece }: { load: string; words: string[]; piece: PieceView }) {
  const { change } = useActions();
  const [near, setNear] = useState(false);
  const list = () => setNear(true);
  return (
    <select
      className={piece.named ? "choice decided" : "choice"}
      aria-label={`Offset of piece ${piece.id}`}
      value={piece.named ? piece.offset : ""}
      onPointerEnter={list}
      onFocus={list}
      onChange={(event) =>
        void change({ change: "set-offsets", load, named: [[piece.id, event.target.value]] })
      }
    >
      <option value="">{piece.named ? "by the rule" : piece.offset || "none left"}</option>
      {(near ? words : piece.named ? [piece.offset] : []).map((word) => (
        <option key={word}>{word}</option>
      ))}
    </select>
  );
}
