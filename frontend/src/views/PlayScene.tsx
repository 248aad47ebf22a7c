/** What moves and stands in the played cycle: the fixture, the tool in its holder, the way that it took. */
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
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

export function FixtureBody({ solid }: { solid: { vertices: number[]; triangles: number[] } }) {
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
        <meshLambertMaterial color={FIXTURE} />
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
