/** Part: the model beside its features, linked both ways; threads named once for all holes of a size. */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, type FeatureView } from "../../api/client";
import { Findings } from "../../shell/Findings";
import { areaText, fixed, lengthText, volumeText, type Unit } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";
import { useSelection, useUnit } from "../../shell/selection";
import { Model3D } from "../../views/Model3D";
import { FeatureTable } from "./FeatureTable";
import { HoleSizes } from "./HoleSizes";

const CHOSEN = "#3f8f7b";
const HOVERED = "#a9cfc0";
const UNMADE = "#d9a08f";

export function PartPage() {
  const { plan } = useDesk();
  const { unit } = useUnit();
  const { chosen, hovered, choose, hover } = useSelection();
  const mesh = useQuery({
    queryKey: ["mesh", plan.plan_id],
    queryFn: () => api.mesh(plan.plan_id),
    staleTime: Infinity,
  });
  const ofFace = useMemo(() => {
    const map = new Map<number, string>();
    for (const feature of plan.features) for (const face of feature.faces) map.set(face, feature.id);
    return map;
  }, [plan.features]);
  const tones = useMemo(() => {
    const map = new Map<number, string>();
    const named = new Set(plan.findings.filter((f) => f.severity === "error").flatMap((f) => f.features));
    for (const feature of plan.features) {
      const tone = chosen.has(feature.id)
        ? CHOSEN
        : hovered.has(feature.id)
          ? HOVERED
          : named.has(feature.id)
            ? UNMADE
            : null;
      if (tone) for (const face of feature.faces) map.set(face, tone);
    }
    return map;
  }, [plan.features, plan.findings, chosen, hovered]);
  const [x, y, z] = plan.part_size;
  const only = chosen.size === 1 ? plan.features.find((f) => chosen.has(f.id)) : undefined;

  return (
    <div className="two-columns part-page">
      <section aria-label="Model">
        <h1>
          Part{" "}
          <small>
            {[x, y, z].map((v) => lengthText(v, unit, 2)).join(" × ")} {unit} ·{" "}
            {volumeText(plan.part_volume, unit)} {unit === "mm" ? "mm³" : "in³"} · file in{" "}
            {plan.job.length_unit}
            {plan.job.aligned && ", turned to lie along its axes"}
          </small>
        </h1>
        {mesh.data ? (
          <Model3D
            mesh={mesh.data}
            tones={tones}
            onPick={(face) => {
              const id = face === null ? undefined : ofFace.get(face);
              choose(id ? [id] : []);
            }}
            onHover={(face) => {
              const id = face === null ? undefined : ofFace.get(face);
              hover(id ? [id] : []);
            }}
          />
        ) : (
          <p className="empty">{mesh.error ? mesh.error.message : "Drawing the part …"}</p>
        )}
        {only ? (
          <Card feature={only} unit={unit} />
        ) : (
          <p className="card-line soft">Point at the part or at a row. Drag turns it.</p>
        )}
      </section>
      <section aria-label="Features" className="scroll">
        <HoleSizes />
        <FeatureTable />
        <Findings of={(f) => f.chapter === "part"} />
      </section>
    </div>
  );
}

function Card({ feature, unit }: { feature: FeatureView; unit: Unit }) {
  return (
    <p className="card-line">
      <b>
        {feature.id} {feature.title}
      </b>
      {feature.measures.map((m) => (
        <span key={m.label}>
          {m.label} {measureText(m, unit)}
        </span>
      ))}
      <span>
        reached from{" "}
        {feature.access.length ? (
          feature.access.map(directionName).join(", ")
        ) : (
          <em className="debit">nowhere</em>
        )}
      </span>
    </p>
  );
}

export function measureText(m: { value: number; unit: string }, unit: Unit): string {
  if (m.unit === "mm")
    return lengthText(m.value, unit, Number.isInteger(Math.round(m.value * 1000) / 1000) ? 0 : 2);
  if (m.unit === "mm2") return `${areaText(m.value, unit)} ${unit === "mm" ? "mm²" : "in²"}`;
  if (m.unit === "deg") return `${fixed(m.value, 0)}°`;
  return fixed(m.value, 2);
}

function directionName(d: readonly number[]): string {
  const names = ["X", "Y", "Z"];
  const i = d.findIndex((c) => Math.abs(Math.abs(c) - 1) < 1e-3);
  return i < 0 ? `(${d.map((c) => fixed(c, 2)).join(", ")})` : `${names[i]}${(d[i] ?? 0) > 0 ? "+" : "−"}`;
}
