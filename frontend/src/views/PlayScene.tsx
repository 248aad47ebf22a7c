/** What moves and stands in the played cycle: the fixture, the tool in its holder, the way that it took. */
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, type ReactNode } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  EdgesGeometry,
  ExtrudeGeometry,
  LatheGeometry,
  Matrix4,
  Shape,
  Vector2,
  Vector3,
} from "three";
import type { Spot } from "./ModelBody";

const FIXTURE = "#b9b6a6";
export const STOCK = "#dcd9cc";
const CUTTER = "#b98a2f";
const HOLDER = "#6f8494";
const CUT = "#1d5b4f";
const RAPID = "#a1371f";
const EDGE = "#5a6154";
const THICK = 6; // mm of a turning tool, across its section

type Way = {
  points: number[];
  rapid: boolean[];
  up: number[];
  right: number[];
  outlines: [number, number][][];
  turned: boolean;
};

/** What is in one piece's own coordinates, where that piece is: `matrix` is 3 × 4, row by row. */
export function Posed({ matrix, children }: { matrix: number[]; children: ReactNode }) {
  const { invalidate } = useThree();
  const placed = useMemo(() => matrixOf(matrix), [matrix]);
  useEffect(() => invalidate(), [placed, invalidate]);
  return (
    <group matrix={placed} matrixAutoUpdate={false}>
      {children}
    </group>
  );
}

export function matrixOf(rows: number[]): Matrix4 {
  const found = new Matrix4();
  const at = (i: number) => rows[i] ?? 0;
  // prettier-ignore
  found.set(
    at(0), at(1), at(2), at(3), at(4), at(5), at(6), at(7), at(8), at(9), at(10), at(11), 0, 0, 0, 1,
  );
  return found;
}

/** One after the other: first the second matrix, then the first one. */
export function after(first: number[], second: number[]): number[] {
  return rowsOf(matrixOf(first).multiply(matrixOf(second)));
}

const rowsOf = ({ elements }: Matrix4): number[] =>
  [0, 1, 2].flatMap((row) => [0, 4, 8, 12].map((column) => elements[row + column] ?? 0));

/** By so many degrees about an axis through a point. */
export function turnedAbout([at, about]: number[][], degrees: number): number[] {
  const spot = new Vector3(...(at as Spot));
  const turn = new Matrix4().makeRotationAxis(new Vector3(...(about as Spot)), (degrees * Math.PI) / 180);
  const off = spot.clone().applyMatrix4(turn);
  return rowsOf(turn.setPosition(spot.sub(off)));
}

type Solid = { vertices: number[]; triangles: number[] };

export function FixtureBody({ solid, color = FIXTURE }: { solid: Solid; color?: string }) {
  const { invalidate } = useThree();
  const made = useMemo(() => {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(new Float32Array(solid.vertices), 3));
    geometry.setIndex(solid.triangles);
    const flat = geometry.toNonIndexed();
    flat.computeVertexNormals();
    return { flat, edges: new EdgesGeometry(geometry, 25) };
  }, [solid]);
  useEffect(() => {
    invalidate();
    return () => {
      made.flat.dispose();
      made.edges.dispose();
    };
  }, [made, invalidate]);
  return (
    <group>
      <mesh geometry={made.flat}>
        <meshLambertMaterial color={color} />
      </mesh>
      <lineSegments geometry={made.edges}>
        <lineBasicMaterial color={EDGE} />
      </lineSegments>
    </group>
  );
}

export function MovingTool({ way, at }: { way: Way; at: Spot }) {
  const { invalidate } = useThree();
  const bodies = useMemo(() => way.outlines.map((outline) => bodyOf(outline, way.turned)), [way]);
  const turn = useMemo(() => {
    const up = new Vector3(...(way.up as Spot));
    const right = new Vector3(...(way.right as Spot));
    // the outlines lie in X and Y: across along the way's right, along its up
    return new Matrix4().makeBasis(right, up, new Vector3().crossVectors(right, up));
  }, [way]);
  const matrix = useMemo(() => turn.clone().setPosition(...at), [turn, at]);
  useEffect(() => () => bodies.forEach((body) => body.dispose()), [bodies]);
  useEffect(() => invalidate(), [matrix, bodies, invalidate]);
  return (
    <group matrix={matrix} matrixAutoUpdate={false}>
      {bodies.map((geometry, i) => (
        <mesh key={i} geometry={geometry}>
          <meshLambertMaterial color={i === 0 ? CUTTER : HOLDER} side={DoubleSide} />
        </mesh>
      ))}
    </group>
  );
}

function bodyOf(outline: [number, number][], turned: boolean): BufferGeometry {
  const points = outline.map(([across, along]) => new Vector2(across, along));
  if (!turned) return new LatheGeometry(points, 32);
  const made = new ExtrudeGeometry(new Shape(points), { depth: THICK, bevelEnabled: false });
  made.translate(0, 0, -THICK / 2);
  return made;
}

/** The way so far: cuts and rapids apart. */
export function Trail({ way, upTo }: { way: Way; upTo: number }) {
  const { invalidate } = useThree();
  const [cuts, rapids] = useMemo(() => {
    const found: [number[], number[]] = [[], []];
    for (let i = 1; i <= upTo; i++)
      found[way.rapid[i] ? 1 : 0].push(...way.points.slice(3 * (i - 1), 3 * (i + 1)));
    return found.map((points) => {
      const geometry = new BufferGeometry();
      geometry.setAttribute("position", new BufferAttribute(new Float32Array(points), 3));
      return geometry;
    });
  }, [way, upTo]);
  useEffect(() => {
    invalidate();
    return () => {
      cuts?.dispose();
      rapids?.dispose();
    };
  }, [cuts, rapids, invalidate]);
  return (
    <>
      <lineSegments geometry={cuts}>
        <lineBasicMaterial color={CUT} depthTest={false} transparent />
      </lineSegments>
      <lineSegments geometry={rapids}>
        <lineBasicMaterial color={RAPID} depthTest={false} transparent opacity={0.6} />
      </lineSegments>
    </>
  );
}
