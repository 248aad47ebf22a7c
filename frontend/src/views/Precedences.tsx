/** What comes before what, in layers from left to right; what an operation waits for stands at its lines. */
import { useState } from "react";
import type { CycleView } from "../api/client";

type Graph = CycleView["graphs"][number];

const WIDE = 176;
const HIGH = 34;
const BESIDE = 34;
const BELOW = 12;

export function Precedences({ graph }: { graph: Graph }) {
  const [near, setNear] = useState<number | null>(null);
  const layers = 1 + Math.max(0, ...graph.nodes.map((node) => node.layer));
  const rows = 1 + Math.max(0, ...graph.nodes.map((node) => node.place));
  const at = (k: number): [number, number] => {
    const node = graph.nodes[k];
    return node ? [node.layer * (WIDE + BESIDE), node.place * (HIGH + BELOW)] : [0, 0];
  };
  const touched = (edge: Graph["edges"][number]) => edge.first === near || edge.then === near;
  return (
    <svg
      className="precedences"
      role="group"
      aria-label={`What comes before what in ${graph.setup}`}
      viewBox={`-2 -2 ${layers * (WIDE + BESIDE) - BESIDE + 4} ${rows * (HIGH + BELOW) - BELOW + 4}`}
      style={{ width: layers * (WIDE + BESIDE), maxWidth: "none" }}
    >
      {graph.edges.map((edge) => {
        const [x0, y0] = at(edge.first);
        const [x1, y1] = at(edge.then);
        const [a, b] = [x0 + WIDE, y0 + HIGH / 2];
        const bend = BESIDE / 2;
        return (
          <path
            key={`${edge.first} ${edge.then}`}
            className={[touched(edge) ? "near" : "", edge.by_hand ? "by-hand" : ""].join(" ")}
            d={`M${a} ${b}C${a + bend} ${b} ${x1 - bend} ${y1 + HIGH / 2} ${x1} ${y1 + HIGH / 2}`}
          >
            <title>{edge.reason}</title>
          </path>
        );
      })}
      {graph.nodes.map((node, k) => {
        const [x, y] = at(k);
        const waits = graph.edges.filter((edge) => edge.then === k);
        const words = waits.map((edge) => `after ${graph.nodes[edge.first]?.name}: ${edge.reason}`);
        return (
          <g
            key={node.operation}
            role="img"
            tabIndex={0}
            aria-label={[`${node.name}, T${node.tool}`, ...words].join("; ")}
            className={near === k ? "near" : undefined}
            onFocus={() => setNear(k)}
            onPointerEnter={() => setNear(k)}
          >
            <rect x={x} y={y} width={WIDE} height={HIGH} />
            <text x={x + 7} y={y + 14}>
              {shortened(node.name)}
            </text>
            <text className="tool" x={x + 7} y={y + 28}>
              T{node.tool}
            </text>
            <title>{[node.name, ...words].join("\n")}</title>
          </g>
        );
      })}
    </svg>
  );
}

const MOST = 27;
const shortened = (name: string) => (name.length > MOST ? `${name.slice(0, MOST - 1)}…` : name);
