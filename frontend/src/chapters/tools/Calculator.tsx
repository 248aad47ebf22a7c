/** What a tool does in a material on a machine: speed, feed, power, torque, force, bending, life. */
import { Form, Table } from "react-bootstrap";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type CalculatedView, type ShelfToolView, type ShelfView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { fixed } from "../../shell/numbers";

export function Calculator({ tool, shelf }: { tool: ShelfToolView; shelf: ShelfView }) {
  const { row } = tool;
  const { turns, asks } = tool;
  const library = useQuery({ queryKey: ["library"], queryFn: api.library });
  const data = shelf.cutting.filter((one) => one.row.FAMILY === row.FAMILY);
  const [material, setMaterial] = useState(data[0]?.row.MATERIAL ?? "");
  const [wanted, setMachine] = useState("");
  const [asked, setAsked] = useState({ ap: 0, ae: 0, speed: 100, feed: 100, diameter: 40 });
  const machines = library.data?.machines.filter((one) => (one.kind === "lathe") === turns) ?? [];
  const machine = wanted || (machines[0]?.id ?? "");
  const found = useQuery({
    queryKey: ["calculator", row, material, machine, asked],
    queryFn: () =>
      api.calculator({
        tool: row.ID ?? "",
        material,
        machine,
        ...asked,
        speed: asked.speed / 100,
        feed: asked.feed / 100,
      }),
    enabled: machine !== "" && material !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const number = (name: keyof typeof asked, label: string, value: number, digits: number) => (
    <label>
      {label}
      <NumberCell
        label={label}
        kind="number"
        value={value}
        text={fixed(value, digits)}
        decided={asked[name] !== 0}
        onCommit={(next) => setAsked({ ...asked, [name]: next ?? 0 })}
      />
    </label>
  );
  const cut = found.data;
  return (
    <section className="calculator scroll" aria-label={`Calculator for ${row.DESCRIPTION}`}>
      <h2>{row.DESCRIPTION}</h2>
      <div className="choices fields">
        <label>
          Material
          <Form.Select
            bsPrefix="choice"
            value={material}
            onChange={(event) => setMaterial(event.target.value)}
          >
            {data.map((one) => (
              <option key={one.row.MATERIAL} value={one.row.MATERIAL}>
                {library.data?.materials.find((m) => m.id === one.row.MATERIAL)?.name ?? one.row.MATERIAL}
              </option>
            ))}
          </Form.Select>
        </label>
        <label>
          Machine
          <Form.Select bsPrefix="choice" value={machine} onChange={(event) => setMachine(event.target.value)}>
            {machines.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Form.Select>
        </label>
        {asks.includes("ap") && number("ap", "ap, mm", cut?.ap ?? 0, 2)}
        {asks.includes("ae") && number("ae", "ae, mm", cut?.ae ?? 0, 2)}
        {asks.includes("diameter") && number("diameter", "Work Ø, mm", asked.diameter, 1)}
        {number("speed", "Speed, % of usual", asked.speed, 0)}
        {asks.includes("feed") && number("feed", "Feed, % of usual", asked.feed, 0)}
      </div>
      {found.error && <p className="finding">{found.error.message}</p>}
      {cut && <Answer cut={cut} turns={turns} />}
    </section>
  );
}

function Answer({ cut, turns }: { cut: CalculatedView; turns: boolean }) {
  const of = (value: number, limit: number, digits: number) =>
    `${fixed(value, digits)} of ${fixed(limit, 1)}`;
  const rows: [string, string, string][] = [
    ["n", fixed(cut.n, 0), "rpm"],
    ["vc", fixed(cut.vc, 0), "m/min"],
    [turns ? "f" : "fz", fixed(cut.fz, 3), turns ? "mm a turn" : "mm"],
    ["vf", fixed(cut.vf, 0), "mm/min"],
    ["removes", fixed(cut.removal, 1), "cm³/min"],
    ["power", of(cut.load.power, cut.load.power_limit, 2), "kW"],
    ["torque", of(cut.load.torque, cut.load.torque_limit, 2), "N·m"],
    ["force at the edge", fixed(cut.load.force, 0), "N"],
  ];
  if (cut.load.bend_limit > 0)
    rows.push(["bends at its tip", `${fixed(cut.load.bend, 3)} of ${fixed(cut.load.bend_limit, 2)}`, "mm"]);
  rows.push(["life", fixed(cut.life, 0), "min in cut"]);
  return (
    <>
      <Table bsPrefix="ledger-table">
        <tbody aria-live="polite">
          {rows.map(([name, value, unit]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td className="n">{value}</td>
              <td className="soft">{unit}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {cut.notes.map((note) => (
        <p key={note} className="finding">
          {note.charAt(0).toUpperCase() + note.slice(1)}.
        </p>
      ))}
      <Table bsPrefix="figures">
        <tbody>
          {cut.figures.map((figure) => (
            <tr key={figure.label}>
              <th scope="row">{figure.label}</th>
              <td>{figure.formula}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="soft">Usual values from: {cut.source}.</p>
    </>
  );
}
