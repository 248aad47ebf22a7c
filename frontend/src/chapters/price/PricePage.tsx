/** Price: the lines for every quantity, what they are computed from, and each against quantity. */
import { Form, Table } from "react-bootstrap";
import { useState } from "react";
import { among } from "../../api/changes";
import type { RateView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { MaterialChoice } from "../../shell/MaterialChoice";
import { NumberCell } from "../../shell/NumberCell";
import { fixed, hoursText, lengthText, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { NOT_FOLLOWED } from "../../shell/Strip";
import { useUnit } from "../../shell/selection";
import { HowSure } from "./HowSure";
import { LeadTime, QuoteIt } from "./LeadTime";
import { PriceChart } from "../../views/PriceChart";

export function PricePage() {
  const { plan, change } = useDesk();
  const { price } = plan;
  const asked = price.quantities.map((q) => ({ quantity: q.quantity, each: Number(q.each) }));
  return (
    <div className="two-columns price-page">
      <section aria-label="Prices" className="scroll">
        <h1>
          Price{" "}
          <small>
            {plan.material_name} · {fixed(price.material_kg, 3)} kg of stock a piece
            {!plan.stock_followed && ` · ${NOT_FOLLOWED}`}
          </small>
          <QuoteIt />
        </h1>
        <Lines />
        <HowSure />
        <PriceChart
          curve={price.curve.map((p) => ({ quantity: p.quantity, each: Number(p.each) }))}
          asked={asked}
        />
      </section>
      <section aria-label="What it is computed from" className="scroll">
        <h2>
          Quantities <span>the first one is the strip's</span>
        </h2>
        <Quantities />
        <LeadTime />
        <h2>
          Setups <span>rate an hour, setting up h:min, load s</span>
        </h2>
        <Table bsPrefix="ledger-table" className="setup-costs">
          <thead>
            <tr>
              <th>Setup</th>
              <th>Machine</th>
              <th className="n">rate</th>
              <th className="n">setting up</th>
              <th className="n">load s</th>
            </tr>
          </thead>
          <tbody>
            {plan.setups
              .filter((setup) => setup.leads)
              .map((setup) => (
                <tr key={setup.id}>
                  <th scope="row">{[setup.id, ...setup.lies_with].join(" + ")}</th>
                  <td>{setup.machine_name}</td>
                  <td className="n">
                    <NumberCell
                      label={`Machine rate of ${setup.id}`}
                      kind="number"
                      column="rate"
                      value={Number(setup.machine_rate)}
                      text={moneyText(setup.machine_rate)}
                      decided={setup.rate_decided}
                      onCommit={(value) =>
                        void change({
                          change: "set-setup-cost",
                          setup: setup.id,
                          ...(value === null ? { clear: ["machine_rate"] } : { machine_rate: String(value) }),
                        })
                      }
                    />
                  </td>
                  <td className="n">
                    <NumberCell
                      label={`Setup hours of ${setup.id}`}
                      kind="hours"
                      column="hours"
                      value={Number(setup.load_hours)}
                      text={hoursText(Number(setup.load_hours))}
                      decided={setup.hours_decided}
                      onCommit={(value) =>
                        void change({
                          change: "set-setup-cost",
                          setup: setup.id,
                          ...(value === null ? { clear: ["hours"] } : { hours: value.toFixed(4) }),
                        })
                      }
                    />
                  </td>
                  <td className="n">
                    <NumberCell
                      label={`Load seconds of ${setup.id}`}
                      kind="number"
                      column="load"
                      value={setup.whole_load}
                      text={fixed(setup.whole_load, 0)}
                      decided={setup.load_decided}
                      onCommit={(value) =>
                        void change({
                          change: "set-setup-cost",
                          setup: setup.id,
                          ...(value === null ? { clear: ["load_seconds"] } : { load_seconds: String(value) }),
                        })
                      }
                    />
                  </td>
                </tr>
              ))}
          </tbody>
        </Table>
        <h2>
          Rates <span>bold ones are this plan's own</span>
        </h2>
        <Table bsPrefix="ledger-table" className="rates-table">
          <tbody>
            <tr>
              <th scope="row">material</th>
              <td className="n">
                <MaterialChoice />
              </td>
            </tr>
            <tr>
              <th scope="row">material bought as</th>
              <td className="n">
                <Form.Select
                  bsPrefix="choice"
                  aria-label="Material bought as"
                  value={price.buy}
                  onChange={(event) =>
                    void change({
                      change: "set-buy",
                      buy: among(["blank", "bar"], event.target.value) ?? "blank",
                    })
                  }
                >
                  <option value="blank">sawn blanks</option>
                  <option value="bar">whole bars</option>
                </Form.Select>
              </td>
            </tr>
            {price.rates.map((rate) => (
              <Rate key={rate.name} rate={rate} />
            ))}
          </tbody>
        </Table>
        <Findings of={(f) => f.chapter === "price"} />
      </section>
    </div>
  );
}

function Lines() {
  const { plan } = useDesk();
  const rows = plan.price.quantities;
  const names = rows[0]?.lines.map((l) => l.line) ?? [];
  return (
    <Table bsPrefix="ledger-table" className="price-lines">
      <thead>
        <tr>
          <th>For a batch of</th>
          {rows.map((q) => (
            <th key={q.quantity} className="n">
              {q.quantity}
              {q.started > q.quantity && <small> ({q.started} started)</small>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {names.map((name, i) => (
          <tr key={name}>
            <td>{name}</td>
            {rows.map((q) => (
              <td key={q.quantity} className="n">
                {moneyText(q.lines[i]?.cost ?? 0)}
              </td>
            ))}
          </tr>
        ))}
        <tr className="sum">
          <td>cost</td>
          {rows.map((q) => (
            <td key={q.quantity} className="n">
              {moneyText(q.cost)}
            </td>
          ))}
        </tr>
        <tr>
          <td>price</td>
          {rows.map((q) => (
            <td key={q.quantity} className="n">
              {moneyText(q.price)}
            </td>
          ))}
        </tr>
        <tr>
          <td>machine hours</td>
          {rows.map((q) => (
            <td key={q.quantity} className="n">
              {fixed(Number(q.machine_hours), 1)}
            </td>
          ))}
        </tr>
      </tbody>
      <tfoot>
        <tr className="range">
          <td>two times of three from … to</td>
          {plan.price.sure.map((one) => (
            <td key={one.quantity} className="n soft">
              {moneyText(one.low)} … {moneyText(one.high)}
            </td>
          ))}
        </tr>
        <tr>
          <td>price each</td>
          {rows.map((q) => (
            <td key={q.quantity} className="n" data-testid={`each-${q.quantity}`}>
              {moneyText(q.each)}
            </td>
          ))}
        </tr>
      </tfoot>
    </Table>
  );
}

function Quantities() {
  const { plan, change } = useDesk();
  const text = plan.quantities.join(", ");
  const [draft, setDraft] = useState<string | null>(null);
  const numbers = (draft ?? text)
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const wrong =
    draft !== null && (numbers.length === 0 || numbers.some((n) => !Number.isInteger(n) || n < 1));
  function commit() {
    if (draft !== null && !wrong && draft !== text)
      void change({ change: "set-quantities", quantities: numbers });
    setDraft(null);
  }
  return (
    <label className="quantities">
      <span className="visually-hidden">Quantities</span>
      <Form.Control
        bsPrefix="entry"
        aria-label="Quantities"
        aria-invalid={wrong}
        value={draft ?? text}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !wrong) event.currentTarget.blur();
          if (event.key === "Escape") setDraft(null);
        }}
      />
      {wrong && <span className="hint debit">whole numbers above 0, such as 10, 50, 250</span>}
    </label>
  );
}

function Rate({ rate }: { rate: RateView }) {
  const { change } = useDesk();
  const { unit } = useUnit();
  const share = rate.unit === "share";
  const value = (share ? 100 : 1) * Number(rate.value ?? 0);
  const texts: Record<RateView["unit"], string> = {
    share: fixed(value, 1),
    hours: hoursText(value),
    seconds: fixed(value, 0),
    pieces: fixed(value, 0),
    length: lengthText(value, unit, 1),
    money: moneyText(value),
  };
  const text = rate.value === null ? "–" : texts[rate.unit];
  const units: Record<RateView["unit"], string> = {
    share: "%",
    hours: "h:min",
    seconds: "s",
    pieces: "pieces",
    length: unit,
    money: "",
  };
  const unitText = units[rate.unit];
  return (
    <tr>
      <th scope="row">
        {rate.label}
        {unitText && <span className="soft"> {unitText}</span>}
      </th>
      <td className="n">
        <NumberCell
          label={rate.label}
          kind={rate.unit === "hours" ? "hours" : rate.unit === "length" ? "length" : "number"}
          unit={unit}
          column="rates"
          value={value}
          text={text}
          decided={rate.decided}
          onCommit={(next) =>
            void change({
              change: "set-rate",
              name: rate.name,
              value: next === null ? null : (share ? next / 100 : next).toFixed(6).replace(/\.?0+$/, ""),
            })
          }
        />
      </td>
    </tr>
  );
}
