/** The stock, operation by operation: what each takes off, what stays on the part, what is cut into it. */
import { Form, Table } from "react-bootstrap";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type RemainderView, type StockView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { fixed, lengthText, volumeText } from "../../shell/numbers";
import { usePartMesh } from "../../shell/mesh";
import { stockKey, useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { stockQuery } from "../../shell/stockQuery";
import { Model3D, type Spot } from "../../views/Model3D";
import { BAND_TONES, BANDS, stockMesh } from "../../views/stockMesh";

const NONE: RemainderView[] = [];

export function StockSteps() {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const stock = useQuery({
    queryKey: stockKey(plan),
    queryFn: () => api.stock(plan.plan_id),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  const [chosen, setChosen] = useState<number | null>(null);
  const last = stock.data?.steps.length ?? 0;
  const count = Math.min(chosen ?? last, last);
  const solid = useQuery({
    ...stockQuery(plan.plan_id, plan.edition, count),
    enabled: stock.data !== undefined && !stock.data.unknown,
    placeholderData: keepPreviousData,
  });
  const pieces = stock.data && count === last ? stock.data.remainders : NONE;
  const part = usePartMesh();
  // what stays on is shown on the part, which it hides nothing of; what is cut away only shows where the part is gone
  const onPart = pieces.length > 0 && pieces.every((piece) => !piece.cut_into) ? part.data : undefined;
  const mesh = useMemo(() => {
    if (onPart) return stockMesh(onPart, pieces, onPart.edges);
    return solid.data ? stockMesh(solid.data, pieces) : null;
  }, [solid.data, onPart, pieces]);
  const [picked, setPicked] = useState<Spot | null>(null);
  const up = setupAfter(stock.data, count, plan.setups)?.above ?? [0, 0, 1];
  const height = useQuery({
    queryKey: ["stock-height", plan.plan_id, plan.edition, count, picked, up],
    queryFn: () => api.stockHeight(plan.plan_id, count, picked ?? [0, 0, 0], up),
    enabled: picked !== null,
  });
  if (stock.error) return <p className="finding">{stock.error.message}</p>;
  if (!stock.data) return <p className="empty">Cutting the stock, operation by operation …</p>;
  if (stock.data.unknown)
    return <p className="finding">The stock cannot be followed: {stock.data.unknown}.</p>;
  const step = count > 0 ? stock.data.steps[count - 1] : undefined;
  return (
    <div className="stock-steps">
      <section aria-label="The stock">
        <label className="stock-slider">
          <Form.Range
            bsPrefix="slide"
            key={last}

            min={0}
            max={last}
            value={count}
            aria-label="Operations done"
            aria-valuetext={step ? `after ${count} of ${last}: ${step.name}` : "before the first operation"}
            onChange={(event) => setChosen(Number(event.target.value))}
          />
          <span>
            {step ? (
              <>
                after <b>{count}</b> of {last}: {step.name}
              </>
            ) : (
              "as it comes from the saw"
            )}{" "}
            · <b>{fixed(1000 * (step?.kg ?? stock.data.kg), 0)} g</b>
          </span>
        </label>
        {mesh ? (
          <Model3D
            mesh={mesh}
            tones={BAND_TONES}
            label="The stock"
            marks={picked ? [picked] : []}
            onPick={(_, spot) => setPicked(spot)}
            onHover={() => undefined}
          />
        ) : (
          <p className="empty">Drawing the stock …</p>
        )}
        <p className="soft" aria-live="polite">
          {picked && height.data
            ? `At X ${fixed(picked[0], 1)} Y ${fixed(picked[1], 1)} Z ${fixed(picked[2], 1)} of the part there are ${lengthText(height.data.height, unit, 2)} ${unit} of stock from below to above.`
            : "Point at the stock: how much stands there, from below to above in this setup."}
        </p>
        {pieces.length > 0 && <BandLegend pieces={pieces} />}
      </section>
      <section aria-label="Step by step" className="stock-lists">
        <Verdict stock={stock.data} current={plan.stock_followed} />
        <Findings of={(f) => ["stock-left", "cut-into-part", "stock-unknown"].includes(f.code)} />
        <Pieces pieces={stock.data.remainders} />
        <div className="scroll">
          <StepTable stock={stock.data} count={count} onChoose={setChosen} />
        </div>
      </section>
    </div>
  );
}

function setupAfter<T extends { id: string }>(stock: StockView | undefined, count: number, setups: T[]) {
  const id = stock?.steps[Math.max(0, count - 1)]?.setup;
  return setups.find((setup) => setup.id === id);
}

function Verdict({ stock, current }: { stock: StockView; current: boolean }) {
  const end = stock.steps.at(-1)?.volume ?? stock.start;
  const share = stock.over_share * 100;
  if (!current) return <p className="soft">Following what was changed …</p>;
  return (
    <p>
      The stock ends with <b>{fixed(end / 1000, 2)} cm³</b>, the part has {fixed(stock.part / 1000, 2)} cm³
      {Math.abs(share) >= 0.01 ? ` (${share > 0 ? "+" : "−"}${fixed(Math.abs(share), 2)} %)` : ""}.{" "}
      {stock.remainders.length === 0 && "Nothing stays on it and nothing is cut into it."}
    </p>
  );
}

/** Every piece, also those that are meant or that a finding of another chapter speaks of. */
function Pieces({ pieces }: { pieces: RemainderView[] }) {
  const { unit } = useUnit();
  const { choose } = useSelection();
  if (pieces.length === 0) return null;
  return (
    <div className="stock-pieces">
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Piece</th>
            <th className="n">most, {unit}</th>
            <th className="n">{unit === "mm" ? "mm³" : "in³"}</th>
            <th className="n">at X, Y, Z</th>
          </tr>
        </thead>
        <tbody>
          {pieces.map((piece, i) => (
            <tr key={i}>
              <td>
                <button type="button" className="cell-button" onClick={() => choose([piece.feature])}>
                  {piece.cut_into ? "cut into" : "left on"} {piece.feature || "a body to hold by"}
                </button>
              </td>
              <td className="n">{lengthText(piece.amount, unit, 2)}</td>
              <td className="n">{volumeText(piece.volume, unit)}</td>
              <td className="n">{piece.at.map((v) => lengthText(v, unit, 1)).join(", ")}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}

type Steps = { stock: StockView; count: number; onChoose: (count: number) => void };

function StepTable({ stock, count, onChoose }: Steps) {
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    void row.current?.scrollIntoView({ block: "nearest" });
  }, [count]);
  return (
    <Table bsPrefix="ledger-table">
      <thead>
        <tr>
          <th className="n">No.</th>
          <th>Setup</th>
          <th>After</th>
          <th className="n">off, cm³</th>
          <th className="n" title="the greatest rate of removal, from the stock that stands there">
            at most, cm³/min
          </th>
          <th className="n" title="the same, as the operation says">
            as said
          </th>
          <th className="n">left, g</th>
        </tr>
      </thead>
      <tbody>
        <tr className={count === 0 ? "sel" : undefined}>
          <td className="n">0</td>
          <td />
          <td>
            <button type="button" className="cell-button" onClick={() => onChoose(0)}>
              the stock as sawn
            </button>
          </td>
          <td className="n">–</td>
          <td className="n">–</td>
          <td className="n">–</td>
          <td className="n">{fixed(1000 * stock.kg, 0)}</td>
        </tr>
        {stock.steps.map((step, i) => (
          <tr
            key={step.operation}
            ref={count === i + 1 ? row : undefined}
            className={count === i + 1 ? "sel" : undefined}
          >
            <td className="n">{i + 1}</td>
            <td>{step.setup}</td>
            <td>
              <button type="button" className="cell-button" onClick={() => onChoose(i + 1)}>
                {step.name}
              </button>
            </td>
            <td className="n">{step.removed >= 5 ? fixed(step.removed / 1000, 2) : "–"}</td>
            <td className="n">{step.rate > 0 ? fixed(step.rate / 1000, 1) : "–"}</td>
            <td className="n">{step.rate > 0 ? fixed(step.stated / 1000, 1) : "–"}</td>
            <td className="n">{fixed(1000 * step.kg, 0)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function BandLegend({ pieces }: { pieces: RemainderView[] }) {
  const kinds = [
    ["left", pieces.some((piece) => !piece.cut_into), "stays on"],
    ["into", pieces.some((piece) => piece.cut_into), "cut into the part"],
  ] as const;
  return (
    <p className="tone-legend">
      {kinds.map(
        ([kind, any, words]) =>
          any && (
            <span key={kind}>
              {words}, mm:{" "}
              {BANDS.map((band, i) => (
                <span key={band.most}>
                  <i style={{ background: band[kind] }} />{" "}
                  {Number.isFinite(band.most) ? `to ${band.most}` : `over ${BANDS[i - 1]?.most}`}{" "}
                </span>
              ))}
            </span>
          ),
      )}
    </p>
  );
}
