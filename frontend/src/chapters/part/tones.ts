/** How the model is coloured: by kind, by setup, by state. Tones are told apart in words by the legend beside them. */
import type { FeatureView, PlanView } from "../../api/client";

export type Colouring = "plain" | "kind" | "setup" | "state";
export type Legend = { tone: string; label: string }[];

export const COLOURINGS: Record<Colouring, string> = {
  plain: "as it is",
  kind: "by kind",
  setup: "by setup",
  state: "by state",
};

export const CHOSEN = "#3f8f7b";
export const HOVERED = "#a9cfc0";

const KINDS: Record<string, [string, string]> = {
  face: ["#dcd9cc", "faces"],
  turned: ["#c3ccd6", "turned"],
  contour: ["#cfc7ae", "outline"],
  pocket: ["#b9a777", "pockets"],
  slot: ["#c99c6b", "slots"],
  step: ["#a5b48c", "steps"],
  hole: ["#7f9bb5", "holes"],
  chamfer: ["#b58a93", "chamfers"],
  fillet: ["#a48ab0", "rounded edges"],
  surface: ["#c8796a", "free surfaces"],
};

const SETUPS = ["#8fb0a1", "#d0b06c", "#9fb2cc", "#c79a8d", "#b3a3c6", "#b9bd8a", "#8f9a94", "#d3a9b8"];

export const BECAME: Record<string, [string, string]> = {
  same: ["#dcd9cc", "same"],
  moved: ["#8fb0d0", "moved"],
  resized: ["#d7b25f", "resized"],
  new: ["#86b58a", "new"],
  gone: ["#cf8a76", "gone"],
};

const STATES: Record<string, [string, string]> = {
  made: ["#b7cdb9", "made here"],
  open: ["#d9a08f", "made nowhere"],
  out: ["#c9b98a", "left to others"],
  bought: ["#e9e6da", "as bought"],
  changed: ["#8fb0d0", "changed by the revision"],
};

function stateOf(feature: FeatureView): string {
  if (feature.left_out) return "out";
  if (!feature.needs_machining) return "bought";
  if (feature.operations.length === 0) return "open";
  return feature.became === "same" ? "made" : "changed";
}

function keyOf(feature: FeatureView, colouring: Colouring): string {
  if (colouring === "kind") return feature.kind;
  if (colouring === "state") return stateOf(feature);
  return feature.setups[0] ?? "";
}

/** Tone of each face, and what the tones mean. */
export function coloured(
  plan: PlanView,
  colouring: Colouring,
): { tones: Map<number, string>; legend: Legend } {
  const tones = new Map<number, string>();
  const names: Record<string, [string, string]> =
    colouring === "kind"
      ? KINDS
      : colouring === "state"
        ? STATES
        : Object.fromEntries(
            plan.setups.map((setup, i) => [
              setup.id,
              [SETUPS[i % SETUPS.length] ?? "", `${setup.id}, ${setup.up} up`],
            ]),
          );
  if (colouring === "plain") return { tones, legend: [] };
  const used = new Set<string>();
  for (const feature of plan.features) {
    const key = keyOf(feature, colouring);
    const entry = names[key];
    if (!entry) continue;
    used.add(key);
    for (const face of feature.faces) tones.set(face, entry[0]);
  }
  const legend = Object.entries(names)
    .filter(([key]) => used.has(key))
    .map(([, [tone, label]]) => ({ tone, label }));
  return { tones, legend };
}
