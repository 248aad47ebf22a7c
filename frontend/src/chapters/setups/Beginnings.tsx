/** The part begun anew on each machine: whole plans by the rules, the best first, each one click away. */
import { useState } from "react";
import { Table } from "react-bootstrap";
import { type BegunView } from "../../api/client";
import { useBeginnings } from "../../shell/beginnings";
import { clock, hoursText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { Titles } from "./Machines";

export function Beginnings() {
  const { plan } = useDesk();
  const [asked, setAsked] = useState(false); // it takes seconds of every machine: not with each change
  const found = useBeginnings(asked);
  if (!asked)
    return (
      <p className="cures">
        <button type="button" className="act quiet" onClick={() => setAsked(true)}>
          Compare what it comes to begun anew on each machine
        </button>
      </p>
    );
  if (!found.data)
    return (
      <p className="soft" role="status">
        {found.error ? found.error.message : "Beginning anew on every machine …"}
      </p>
    );
  const { begun, refused, untried } = found.data;
  return (
    <>
      <h2>
        Begun anew{" "}
        <span>divided, held and made by the rules, the best first; undo brings this plan back</span>
      </h2>
      <Table bsPrefix="ledger-table" className="machines-table">
        <thead>
          <tr>
            <th>On</th>
            <th className="n">setups</th>
            <th className="n">cycle, min:s</th>
            <th className="n">setting up, h:min</th>
            <th className="n">each at {plan.quantities[0]}</th>
            <th>To solve</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {begun.map((one) => (
            <Row key={one.name} one={one} />
          ))}
          {refused.map((one) => (
            <tr key={one.name}>
              <td>
                <b>{one.name}</b>
              </td>
              <td colSpan={6} className="soft">
                {one.why}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {untried.length > 0 && <p className="soft">Not tried, it would take too long: {untried.join(", ")}.</p>}
    </>
  );
}

function Row({ one }: { one: BegunView }) {
  const { beginAgain } = useDesk();
  return (
    <tr className={one.current ? "sel" : undefined}>
      <td>
        <b>{one.name}</b>
        {one.bought && <span className="soft"> from {one.bought}</span>}
        {one.cures.length > 0 && <span className="soft"> mended: {one.cures.join(", ")}</span>}
      </td>
      <td className="n">{one.setups}</td>
      <td className="n">{clock(one.cycle)}</td>
      <td className="n">{hoursText(Number(one.setup_hours))}</td>
      <td className="n">{one.each}</td>
      <td>{one.left.length === 0 ? "nothing" : <Titles titles={one.left} words="to solve" />}</td>
      <td>
        {one.current ? (
          "this plan"
        ) : (
          <button
            type="button"
            className="act quiet"
            aria-label={`Begin there: ${one.name}`}
            onClick={() => void beginAgain(one.machines)}
          >
            begin there
          </button>
        )}
      </td>
    </tr>
  );
}
