/** The stock as a picture's mesh: flat facets, and the pieces that stay on or are cut away coloured by thickness. */
import { BufferAttribute, BufferGeometry, EdgesGeometry } from "three";
import type { MeshView, RemainderView, StockSolidView } from "../api/client";

const SHARP = 24; // degrees between facets from which an edge is drawn

/** Upper limits of thickness, mm, and the tones for stock left on and for cuts into the part. */
export const BANDS: { most: number; left: string; into: string }[] = [
  { most: 0.1, left: "#e9d9a6", into: "#c9d3e6" },
  { most: 0.3, left: "#e3bf6a", into: "#a3b4da" },
  { most: 1, left: "#d69a45", into: "#7d8fc8" },
  { most: 3, left: "#c06a38", into: "#5c66ad" },
  { most: Infinity, left: "#9a3a26", into: "#43418c" },
];

export const bandOf = (amount: number) => BANDS.findIndex((band) => amount <= band.most);

/** Face of band i: 1 + 2 i where stock is left on, 2 + 2 i where a cut goes into the part; all else is face 0. */
export const BAND_TONES: ReadonlyMap<number, string> = new Map(
  BANDS.flatMap(({ left, into }, i) => [[1 + 2 * i, left] as const, [2 + 2 * i, into] as const]),
);

/** `edges` are those of the solid where they are known. */
export function stockMesh(
  solid: StockSolidView,
  pieces: RemainderView[],
  edges: number[][] | null = null,
): MeshView {
  const vertices: number[] = [];
  const faces: number[] = [];
  function add(of: { vertices: number[]; triangles: number[] }, face: (triangle: number) => number) {
    for (let t = 0; t < of.triangles.length; t += 3) {
      const corners = of.triangles.slice(t, t + 3);
      for (const corner of corners) vertices.push(...of.vertices.slice(3 * corner, 3 * corner + 3));
      faces.push(face(t / 3));
    }
  }
  add(solid, () => 0);
  for (const piece of pieces)
    add(piece, (triangle) => (piece.cut_into ? 2 : 1) + 2 * bandOf(piece.amounts[triangle] ?? 0));
  return {
    vertices,
    triangles: faces.flatMap((_, i) => [3 * i, 3 * i + 1, 3 * i + 2]),
    faces,
    edges: edges ?? sharpEdges(solid),
    ...extent(solid.vertices),
  };
}

function sharpEdges(solid: StockSolidView): number[][] {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(new Float32Array(solid.vertices), 3));
  geometry.setIndex(solid.triangles);
  const edges = new EdgesGeometry(geometry, SHARP);
  const points = [...edges.getAttribute("position").array];
  geometry.dispose();
  edges.dispose();
  const found: number[][] = [];
  for (let i = 0; i + 5 < points.length; i += 6) found.push(points.slice(i, i + 6));
  return found;
}

function extent(vertices: number[]): Pick<MeshView, "min" | "max"> {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  vertices.forEach((value, i) => {
    const axis = (i % 3) as 0 | 1 | 2;
    min[axis] = Math.min(min[axis], value);
    max[axis] = Math.max(max[axis], value);
  });
  return { min, max };
}
