/** What runs on each piece, what on the first alone, what once over each row or advance; and what one long pass saves. */
import { Form, Table } from "react-bootstrap";
import { among } from "../../api/changes";
import { api, type LayoutView, type ScopeView } from "../../api/client";
import { signed } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useRested } from "./rested";

const WORDS = { each: "on each piece", first: "on the first only", row: "once over each row" };
const ON_BAR = { ...WORDS, row: "once through all" };
const IN_BAR = { ...WORDS, row: "once over the bar" };
const IN_PLATE = { ...WORDS, row: "once over a row of the plate" };

export function Scopes({ load }: { load: LayoutView }) {
  const { data, older, error } = useRested("scopes", load.load, api.scopes);
  const scopes = data?.scopes ?? [];
  const open = scopes.filter((one) => one.probes || one.in_row !== null || one.scope !== "each");
  const others = scopes.filter((one) => !open.includes(one));
  const bar = load.bar !== null;
  const joined = (load.joined?.pieces ?? 1) > 1;
  const plate = load.joined?.word === "plate";
  const words = bar ? ON_BAR : plate ? IN_PLATE : joined ? IN_BAR : WORDS;
  return (
    <>
      <h2>
        Runs <span>on each piece, or once for several</span>
      </h2>
      {error && <p className="debit">{error.message}</p>}
      {!data && !error && (
        <p className="soft">Trying one run {bar ? "through all pieces of the advance" : "over each row"} …</p>
      )}
      {open.length > 0 && (
        <Table bsPrefix="ledger-table" className="scopes">
          <thead>
            <tr>
              <th scope="col">Operation</th>
              <th scope="col">Runs</th>
              <th scope="col" className="n">
                {bar
                  ? "once, s an advance"
                  : joined && !plate
                    ? "once a bar, s a cycle"
                    : "once a row, s a cycle"}
              </th>
            </tr>
          </thead>
          <tbody>
            {open.map((one) => (
              <Row key={one.operation} load={load.load} one={one} words={words} older={older} />
            ))}
          </tbody>
        </Table>
      )}
      {others.length > 0 && (
        <details>
          <summary>
            {others.length === scopes.length ? "All" : `${others.length} others`}{" "}
            {bar ? "do not go through" : "run on each piece"}
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

function Row(props: { load: string; one: ScopeView; words: typeof WORDS; older: boolean }) {
  const { load, one, words, older } = props;
  const { change } = useDesk();
  const able = (["each", "first", "row"] as const).filter(
    (scope) =>
      (scope === "each" && !one.has_to) ||
      scope === one.scope ||
      (scope === "first" ? one.probes : one.in_row !== null),
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
              {scope === "row" && one.goes_round ? "once round all" : words[scope]}
            </option>
          ))}
        </Form.Select>
      </td>
      <td className="n">
        {one.has_to ? "has to" : one.in_row === null ? "–" : older ? "…" : signed(one.in_row, 1)}
      </td>
    </tr>
  );
}
