/** What runs on each piece, what on the first alone, what once over each row; and what one long pass saves. */
import { Form, Table } from "react-bootstrap";
import { among } from "../../api/changes";
import { api, type LayoutView, type ScopeView } from "../../api/client";
import { signed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useRested } from "./rested";

const WORDS = { each: "on each piece", first: "on the first only", row: "once over each row" };

export function Scopes({ load }: { load: LayoutView }) {
  const { data, error } = useRested("scopes", load.load, api.scopes);
  const scopes = data?.scopes ?? [];
  const open = scopes.filter((one) => one.probes || one.in_row !== null || one.scope !== "each");
  const others = scopes.filter((one) => !open.includes(one));
  return (
    <>
      <h2>
        Runs <span>on each piece, or once for several</span>
      </h2>
      {error && <p className="debit">{error.message}</p>}
      {!data && !error && <p className="soft">Trying one pass over each row …</p>}
      {open.length > 0 && (
        <Table bsPrefix="ledger-table" className="scopes">
          <thead>
            <tr>
              <th scope="col">Operation</th>
              <th scope="col">Runs</th>
              <th scope="col" className="n">
                once a row, s a cycle
              </th>
            </tr>
          </thead>
          <tbody>
            {open.map((one) => (
              <Row key={one.operation} load={load.load} one={one} />
            ))}
          </tbody>
        </Table>
      )}
      {others.length > 0 && (
        <details>
          <summary>
            {others.length === scopes.length ? "All" : `${others.length} others`} run on each piece
          </summary>
          <ul className="why">
            {others.map((one) => (
              <li key={one.operation}>
                {one.name}: {one.why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function Row({ load, one }: { load: string; one: ScopeView }) {
  const { change } = useDesk();
  const able = (["each", "first", "row"] as const).filter(
    (scope) =>
      scope === "each" || scope === one.scope || (scope === "first" ? one.probes : one.in_row !== null),
  );
  return (
    <tr>
      <th scope="row">{one.name}</th>
      <td>
        <Form.Select
          bsPrefix="choice"
          aria-label={`${one.name} runs`}
          value={one.scope}
          onChange={(event) => {
            const scope = among(able, event.target.value);
            if (scope) void change({ change: "set-scope", load, operation: one.operation, scope });
          }}
        >
          {able.map((scope) => (
            <option key={scope} value={scope}>
              {WORDS[scope]}
            </option>
          ))}
        </Form.Select>
      </td>
      <td className="n">{one.in_row === null ? "–" : signed(one.in_row, 1)}</td>
    </tr>
  );
}
