/** Part: the model beside its features, linked both ways; what the model does not say is said here. */
import { useMemo, useState } from "react";
import { api, type FeatureView, type MeshView, type PickReadingView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { lengthText, volumeText } from "../../shell/numbers";
import { usePartMesh } from "../../shell/mesh";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { Model3D, type Arrow, type Section, type Spot } from "../../views/Model3D";
import { Bodies } from "./Bodies";
import { FeatureCard } from "./FeatureCard";
import { FeatureTable } from "./FeatureTable";
import { HoleSizes } from "./HoleSizes";
import { LegendLine, LookTools, MeasureLine } from "./LookTools";
import { NextBest } from "./NextBest";
import { Revisions } from "./Revisions";
import { CHOSEN, coloured, HOVERED, type Colouring } from "./tones";

const UNMADE = "#d9a08f";

const MOST_ARROWS = 12; // features at once whose ways in are drawn

type Picked = { face: number; point: Spot };

export function PartPage() {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const { chosen, hovered, choose, hover } = useSelection();
  const [colouring, setColouring] = useState<Colouring>("plain");
  const [hidden, setHidden] = useState<ReadonlySet<number>>(new Set());
  const [section, setSection] = useState<Section | null>(null);
  const measuring = useMeasuring(plan.plan_id);
  const mesh = usePartMesh();
  const ofFace = useMemo(() => {
    const map = new Map<number, string>();
    for (const feature of plan.features) for (const face of feature.faces) map.set(face, feature.id);
    return map;
  }, [plan.features]);
  const { tones, legend } = useMemo(() => {
    const base = coloured(plan, colouring);
    const named = new Set(plan.findings.filter((f) => f.severity === "error").flatMap((f) => f.features));
    for (const feature of plan.features) {
      const open = colouring === "plain" && named.has(feature.id) ? UNMADE : null;
      const tone = chosen.has(feature.id) ? CHOSEN : hovered.has(feature.id) ? HOVERED : open;
      if (tone) for (const face of feature.faces) base.tones.set(face, tone);
    }
    return base;
  }, [plan, colouring, chosen, hovered]);
  const lit = plan.features.filter((f) => chosen.has(f.id));
  const facesOf = (features: FeatureView[]) => features.flatMap((f) => f.faces);
  const arrows = useMemo(() => {
    const lit = plan.features.filter((f) => chosen.has(f.id));
    const model = mesh.data;
    return model && lit.length <= MOST_ARROWS ? lit.flatMap((f) => arrowsTo(f, model)) : [];
  }, [plan.features, chosen, mesh.data]);
  const [x, y, z] = plan.part_size;

  return (
    <div className="two-columns part-page">
      <section aria-label="Model">
        <h1>
          Part{" "}
          <small>
            {[x, y, z].map((v) => lengthText(v, unit, 2)).join(" × ")} {unit} ·{" "}
            {volumeText(plan.part_volume, unit)} {unit === "mm" ? "mm³" : "in³"} · {plan.form} · file in{" "}
            {plan.job.length_unit}
            {plan.job.aligned && ", turned to lie along its axes"}
          </small>
        </h1>
        <Revisions />
        <NextBest />
        {mesh.data ? (
          <Model3D
            mesh={mesh.data}
            tones={tones}
            hidden={hidden}
            section={section}
            arrows={arrows}
            added={plan.bodies}
            marks={measuring.on ? measuring.picks.map((p) => p.point) : []}
            line={measuring.on ? measuring.line : null}
            onPick={(face, spot) => {
              if (measuring.on) {
                if (face !== null && spot) measuring.add({ face, point: spot });
                return;
              }
              const id = face === null ? undefined : ofFace.get(face);
              choose(id ? [id] : []);
            }}
            onHover={(face) => {
              const id = face === null ? undefined : ofFace.get(face);
              hover(id ? [id] : []);
            }}
          >
            <LookTools
              colouring={colouring}
              onColouring={setColouring}
              anyChosen={lit.length > 0}
              anyHidden={hidden.size > 0}
              onIsolate={() => {
                const kept = new Set(facesOf(lit));
                setHidden(new Set([...ofFace.keys()].filter((face) => !kept.has(face))));
              }}
              onHide={() => setHidden(new Set([...hidden, ...facesOf(lit)]))}
              onShowAll={() => setHidden(new Set())}
              section={section}
              onSection={setSection}
              measuring={measuring.on}
              onMeasuring={measuring.turn}
              mesh={mesh.data}
              unit={unit}
            />
          </Model3D>
        ) : (
          <p className="empty">{mesh.error ? mesh.error.message : "Drawing the part …"}</p>
        )}
        <LegendLine legend={legend} />
        {measuring.on && (
          <MeasureLine picks={measuring.picks.length} readings={measuring.readings} unit={unit} />
        )}
      </section>
      <section aria-label="Features" className="scroll">
        {lit.length > 0 ? (
          <FeatureCard features={lit} unit={unit} />
        ) : (
          <p className="soft pick-hint">
            Point at the part or at a row: its measures and what a drawing says.
          </p>
        )}
        <Findings of={(f) => f.chapter === "part"} />
        <Bodies />
        <FeatureTable />
        <HoleSizes />
      </section>
    </div>
  );
}

/** Two picks and what the server measures between them. */
function useMeasuring(plan: number) {
  const [on, setOn] = useState(false);
  const [picks, setPicks] = useState<Picked[]>([]);
  const [readings, setReadings] = useState<PickReadingView[]>([]);
  const line = (readings.find((reading) => reading.line)?.line ?? null) as [Spot, Spot] | null;
  return {
    on,
    picks,
    readings,
    line,
    turn: (next: boolean) => {
      setOn(next);
      setPicks([]);
      setReadings([]);
    },
    add: (pick: Picked) => {
      const next = picks.length === 1 ? [...picks, pick] : [pick];
      setPicks(next);
      void api.measure(plan, next).then(setReadings, () => setReadings([]));
    },
  };
}

/** Where tools come from, pointing at the middle of the feature. */
function arrowsTo(feature: FeatureView, mesh: MeshView): Arrow[] {
  const faces = new Set(feature.faces);
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  mesh.faces.forEach((face, triangle) => {
    if (!faces.has(face)) return;
    for (const vertex of mesh.triangles.slice(3 * triangle, 3 * triangle + 3))
      for (let i = 0; i < 3; i++) {
        const c = mesh.vertices[3 * vertex + i] ?? 0;
        low[i] = Math.min(low[i] ?? c, c);
        high[i] = Math.max(high[i] ?? c, c);
      }
  });
  const at = low.map((c, i) => (c + (high[i] ?? c)) / 2) as Spot;
  return feature.access.map((d) => ({ at, direction: [...d] as Spot }));
}
