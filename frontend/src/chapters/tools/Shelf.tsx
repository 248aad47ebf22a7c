/** Tables of what the shop has, under the symbols of ISO 13399; numbers are changed in place. */
import { Form, Table } from "react-bootstrap";
import type { BroughtView, ShelfToolView, ShelfView } from "../../api/client";
import { api } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { Hint } from "../../views/Hint";

type Make = (what: () => Promise<BroughtView | ShelfView>) => Promise<void>;

const MEANS: Record<string, string> = {
  DC: "cutting diameter",
  DMIN: "least bore",
  DCN: "least bore it is set to",
  DCX: "widest bore it is set to",
  LU: "deepest bore",
  CW: "cutting width",
  ZEFP: "cutting edges",
  RE: "corner radius",
  SIG: "point angle",
  EPSR: "angle of the insert",
  PNA: "angle of the thread",
  KAPR: "angle of the flank to the end",
  DN: "neck behind the head",
  APMX: "depth of cut at the most",
  LCF: "length of the flutes",
  CDX: "cutting depth at the most",
  LPR: "stick-out from the holder",
  OAL: "overall length",
  TP: "pitch",
};

const ORDER = Object.keys(MEANS);

export function ToolTable(props: {
  tools: ShelfToolView[];
  chosen: string;
  holders: ShelfView["holders"];
  onChoose: (id: string) => void;
  make: Make;
}) {
  const { tools, chosen, holders, onChoose, make } = props;
  if (tools.length === 0) return <p className="empty">Nothing here is called so. Clear “Look for”.</p>;
  const measures = ORDER.filter((name) => tools.some((tool) => tool.measures.includes(name)));
  const numbers = [...measures, "PRICE"];
  return (
    <div className="scroll">
      <Table bsPrefix="ledger-table" className="shelf-table">
        <thead>
          <tr>
            <th className="n">T</th>
            <th>Tool</th>
            {measures.map((name) => (
              <th key={name} className="n">
                <Hint words={MEANS[name] ?? ""}>
                  <span>{name}</span>
                </Hint>
              </th>
            ))}
            <th className="n">price</th>
            <th>Holder</th>
            <th>of</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {tools.map(({ row, own }) => {
            const id = row.ID ?? "";
            return (
              <tr key={id} className={id === chosen ? "sel" : undefined}>
                <td className="n">{row.NUMBER}</td>
                <td>
                  <button type="button" className="cell-button" onClick={() => onChoose(id)}>
                    {row.DESCRIPTION}
                  </button>
                </td>
                {numbers.map((name) => (
                  <td key={name} className="n">
                    <NumberCell
                      label={`${name} of ${row.DESCRIPTION}`}
                      kind="number"
                      column={name}
                      value={Number(row[name])}
                      text={row[name] ?? ""}
                      onCommit={(value) => {
                        if (value !== null)
                          void make(() => api.changeTool({ ...row, [name]: String(value) }));
                      }}
                    />
                  </td>
                ))}
                <td>
                  <Form.Select
                    bsPrefix="choice"
                    className="tool-choice holder-choice"
                    aria-label={`Holder of ${row.DESCRIPTION}`}
                    value={row.HOLDER}
                    onChange={(event) =>
                      void make(() => api.changeTool({ ...row, HOLDER: event.target.value }))
                    }
                  >
                    {holders.map((holder) => (
                      <option key={holder.id} value={holder.id}>
                        {holder.id}
                      </option>
                    ))}
                  </Form.Select>
                </td>
                <td>{row.MATERIAL === "hss" ? "high-speed steel" : row.MATERIAL}</td>
                <td>
                  {own && (
                    <button
                      type="button"
                      className="act quiet"
                      aria-label={`Take out what the shop changed of ${row.DESCRIPTION}`}
                      onClick={() => void make(() => api.dropOwn("tool", id))}
                    >
                      the shop's own ×
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      <p className="soft">
        {measures.map((name) => `${name} ${MEANS[name]}`).join(" · ")}. Lengths in mm, symbols of ISO 13399.
      </p>
    </div>
  );
}

export function HolderTable({ holders }: { holders: ShelfView["holders"] }) {
  return (
    <div className="scroll" tabIndex={0} role="region" aria-label="Holders">
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            <th>Holder</th>
            <th />
            <th className="n">nose Ø or shank, mm</th>
            <th className="n">from the spindle, mm</th>
            <th className="n">tools in it</th>
          </tr>
        </thead>
        <tbody>
          {holders.map((holder) => (
            <tr key={holder.id}>
              <td>{holder.id}</td>
              <td>{holder.description}</td>
              <td className="n">{holder.diameter}</td>
              <td className="n">{holder.length}</td>
              <td className="n">{holder.tools}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}

const CUTTING_HEADS: Record<string, string> = {
  FAMILY: "Tools",
  MATERIAL: "In",
  VC: "vc m/min",
  FZ_3: "fz at Ø3",
  FZ_6: "Ø6",
  FZ_10: "Ø10",
  FZ_20: "Ø20",
  LIFE_MINUTES: "life min",
  VC_MOST: "vc at most",
  FZ_MOST: "fz at most ×",
  LIFE_VC: "life falls with vc^",
  LIFE_FZ: "fz^",
  SOURCE: "From",
};

export function CuttingTable({ shelf, looked, make }: { shelf: ShelfView; looked: string; make: Make }) {
  const words = looked.toLowerCase().split(/\s+/);
  const rows = shelf.cutting.filter(({ row }) =>
    words.every((word) => Object.values(row).join(" ").toLowerCase().includes(word)),
  );
  const text = ["FAMILY", "MATERIAL", "SOURCE"];
  return (
    <div className="scroll" tabIndex={0} role="region" aria-label="Cutting data of the shop">
      <Table bsPrefix="ledger-table">
        <thead>
          <tr>
            {shelf.cutting_columns.map((name) => (
              <th key={name} className={text.includes(name) ? undefined : "n"}>
                {CUTTING_HEADS[name] ?? name}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map(({ row, own }) => (
            <tr key={`${row.FAMILY} ${row.MATERIAL}`}>
              {shelf.cutting_columns.map((name) => (
                <td key={name} className={text.includes(name) ? undefined : "n"}>
                  {row[name]}
                </td>
              ))}
              <td>
                {own && (
                  <button
                    type="button"
                    className="act quiet"
                    aria-label={`Take out the shop's own ${row.FAMILY} in ${row.MATERIAL}`}
                    onClick={() => void make(() => api.dropOwn("cutting", `${row.FAMILY} ${row.MATERIAL}`))}
                  >
                    the shop's own ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}
