/** Papers: the setup sheet as it would be printed now, and the lists. */
import { Table } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { api, type SetupView } from "../../api/client";
import { FileLink } from "../../shell/FileLink";
import { clock, fixed, hoursText } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { LineDrawing } from "../../views/LineDrawing";
import { PaperLoad } from "./PaperLoad";
import { SetupPicture } from "../../views/SetupPicture";

export function PapersPage() {
  const { plan } = useDesk();
  const paper = (name: string) => api.paper(plan.plan_id, name);
  const on = plan.now.at.slice(0, 10);
  return (
    <div className="one-column papers-page scroll">
      <h1>
        Papers{" "}
        <small>
          issued from plan version {plan.version}, {on} · always the plan as it stands
        </small>
      </h1>
      <p className="cures">
        <FileLink main shown href={paper("setup-sheet.pdf")}>
          Setup sheet, PDF
        </FileLink>
        <FileLink href={paper("operations.csv")}>Operations, CSV</FileLink>
        <FileLink href={paper("operations.xlsx")}>Operations, XLSX</FileLink>
        <FileLink href={paper("tools.csv")}>Tools, CSV</FileLink>
        <FileLink href={paper("tools.xlsx")}>Tools, XLSX</FileLink>
        <FileLink href={paper("zeros.csv")}>Zeros, CSV</FileLink>
      </p>
      {plan.strip.errors > 0 && (
        <p className="finding">
          <b>Not for the floor yet.</b> {plan.strip.errors} finding{plan.strip.errors > 1 ? "s" : ""} must be
          solved first; the sheet says so on every page.
        </p>
      )}
      {plan.setups.map((setup, i) => (
        <Sheet key={setup.id} setup={setup} position={i + 1} />
      ))}
    </div>
  );
}

function Sheet({ setup, position }: { setup: SetupView; position: number }) {
  const { plan } = useDesk();
  const top = useQuery({
    queryKey: ["drawing", plan.plan_id, setup.id, "top", setup.up, setup.turn],
    queryFn: () => api.drawing(plan.plan_id, setup.id, "top"),
  });
  const iso = useQuery({
    queryKey: ["drawing", plan.plan_id, setup.id, "iso", setup.up, setup.turn],
    queryFn: () => api.drawing(plan.plan_id, setup.id, "iso"),
  });
  const [x, y] = setup.hold.zero;
  return (
    <article className="paper" aria-label={`Setup sheet ${setup.id}`}>
      <header>
        <b>
          {plan.job.number} {plan.job.name}
        </b>
        <span>
          Setup {position} of {plan.setups.length}
        </span>
        <small>
          revision {plan.job.revision} · {plan.material_name} · {plan.quantities[0]} pieces
        </small>
        <small>plan version {plan.version}</small>
      </header>
      <div className="paper-top">
        <dl>
          <dt>machine</dt>
          <dd>{setup.machine_name}</dd>
          <dt>{setup.hold.ways.length > 1 ? "sides" : setup.hold.spins ? "free end" : "side up"}</dt>
          <dd>
            {setup.hold.ways.length > 1
              ? setup.hold.ways
                  .map((w) => `${w.side} at ${w.tilt ? `${w.tilt}°/` : ""}${w.angle}°`)
                  .join(", ")
              : setup.up}
          </dd>
          <dt>stock</dt>
          <dd>{setup.stock.map((v) => fixed(v, 2)).join(" × ")} mm</dd>
          {setup.hold.words.map((word) => (
            <Fragment key={word.label}>
              <dt>{word.label}</dt>
              <dd>{word.words}</dd>
            </Fragment>
          ))}
          <dt>zero</dt>
          <dd>{setup.zero.words}</dd>
          {[...setup.zero.touch_off, ...setup.told].map((line) => (
            <dd key={line} className="wide">
              {line}
            </dd>
          ))}
        </dl>
        <SetupPicture
          boxes={setup.top_boxes}
          drawing={top.data}
          zero={[x, y]}
          zeroWords="zero"
          axes={[setup.hold.axes[0] ?? "X", setup.hold.axes[1] ?? "Y"]}
          label="From above"
          bare
        />
        <LineDrawing
          className="iso"
          lines={(iso.data?.visible ?? []) as [number, number][][]}
          label="Isometric"
        />
      </div>
      {setup.pieces > 1 && <PaperLoad setup={setup} />}
      <div className="paper-tables">
        <Table bsPrefix="ledger-table">
          <thead>
            <tr>
              <th className="n">T</th>
              <th>Tool</th>
              <th />
              <th className="n">stick-out mm</th>
              <th className="n">min in cut</th>
            </tr>
          </thead>
          <tbody>
            {setup.tools.map((tool) => (
              <tr key={tool.number}>
                <td className="n">{tool.number}</td>
                <td>{tool.description}</td>
                <td>{tool.where}</td>
                <td className="n">{fixed(tool.stick_out, 0)}</td>
                <td className="n">{fixed(tool.minutes, 2)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
        <Table bsPrefix="ledger-table">
          <thead>
            <tr>
              <th className="n">Op</th>
              <th>Operation</th>
              <th className="n">T</th>
              <th className="n">rpm</th>
              <th className="n">mm/min</th>
              <th className="n">cut s</th>
              <th className="n">total s</th>
            </tr>
          </thead>
          <tbody>
            {setup.entries.map((e, i) => (
              <tr key={e.id}>
                <td className="n">{10 * (i + 1)}</td>
                <td>
                  {e.name}
                  {e.carriage && `, ${e.carriage}`}
                </td>
                <td className="n">{e.called}</td>
                <td className="n">{fixed(e.n, 0)}</td>
                <td className="n">{fixed(e.vf, 0)}</td>
                <td className="n">
                  {fixed(e.seconds.find((s) => s.category === "cutting")?.seconds ?? 0, 1)}
                </td>
                <td className="n">{fixed(e.total, 1)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td colSpan={7} className="n">
                Cycle {clock(setup.load_cycle)} · load {fixed(setup.load, 0)} s · setting up{" "}
                {hoursText(Number(setup.setup_hours))} h
              </td>
            </tr>
          </tfoot>
        </Table>
      </div>
    </article>
  );
}
