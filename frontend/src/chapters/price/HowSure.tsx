/** What the first quantity's price rests on, where each figure comes from, and what of the spread is whose. */
import { Table } from "react-bootstrap";
import { fixed, moneyText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

export function HowSure() {
  const { plan } = useDesk();
  const sure = plan.price.sure[0];
  if (!sure) return null;
  return (
    <section aria-label="How sure the price is">
      <h2>
        What it rests on{" "}
        <span>
          each at {sure.quantity}: {moneyText(sure.low)} to {moneyText(sure.high)}, two times of three
        </span>
      </h2>
      {plan.price.missing.length > 0 && (
        <div className="price-missing" role="note">
          <b className="debit">The price leaves out what is not made:</b>
          <ul>
            {plan.price.missing.map((title) => (
              <li key={title}>{title}</li>
            ))}
          </ul>
        </div>
      )}
      <p data-testid="sure-words">{sure.words.slice(0, 1).toUpperCase() + sure.words.slice(1)}.</p>
      <Table bsPrefix="ledger-table" className="rests-table">
        <thead>
          <tr>
            <th>Figure</th>
            <th>comes from</th>
            <th className="n">of the price</th>
            <th className="n">off by</th>
            <th className="n">moves it</th>
            <th>of the spread</th>
          </tr>
        </thead>
        <tbody>
          {sure.rests.map((rest) => (
            <tr key={rest.what}>
              <th scope="row">{rest.what}</th>
              <td>{rest.source}</td>
              <td className="n">{moneyText(rest.amount)}</td>
              <td className="n">± {fixed(100 * rest.share, 0)} %</td>
              <td className="n">± {fixed(rest.moves, 2)}</td>
              <td>
                <span
                  className="share"
                  style={{ width: `${Math.max(1, 100 * rest.part)}px` }}
                  aria-hidden="true"
                />
                {fixed(100 * rest.part, 0)} %
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
