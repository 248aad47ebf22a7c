/** What stands in the 3D picture: the part's faces and edges, arrows, marks. */
import { useThree, type ThreeEvent } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import {
  ArrowHelper,
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  EdgesGeometry,
  FrontSide,
  Plane,
  Vector3,
} from "three";
import type { MeshView } from "../api/client";
import type { Arrow } from "./Model3D";

export type Section = { axis: 0 | 1 | 2; at: number; flipped: boolean };
export type Solid3D = { vertices: number[]; triangles: number[] };
export type Spot = [number, number, number];

const PART = "#dcd9cc";
const EDGE = "#22281f";
const ARROW = "#a1371f";
const MARK = "#1d5b4f";
const ADDED = "#d0a24a";

type Props = {
  mesh: MeshView;
  tones: ReadonlyMap<number, string>;
  hidden: ReadonlySet<number>;
  section: Section | null;
  onPick: (face: number | null, spot: Spot | null) => void;
  onHover: (face: number | null) => void;
};

export function ModelBody({ mesh, tones, hidden, section, onPick, onHover }: Props) {
  const { invalidate } = useThree();
  const start = useRef<[number, number] | null>(null);
  const last = useRef<number | null>(null);
  const shown = useMemo(() => mesh.faces.flatMap((face, i) => (hidden.has(face) ? [] : [i])), [mesh, hidden]);
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(new Float32Array(mesh.vertices), 3));
    made.setIndex(mesh.triangles);
    made.computeVertexNormals();
    made.setAttribute("color", new BufferAttribute(new Float32Array(mesh.vertices.length), 3));
    return made;
  }, [mesh]);
  const lines = useMemo(() => edgeLines(mesh), [mesh]);
  const planes = useMemo(() => (section ? [clipping(section)] : []), [section]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  useEffect(() => () => lines.dispose(), [lines]);
  useEffect(() => {
    geometry.setIndex(shown.flatMap((i) => mesh.triangles.slice(3 * i, 3 * i + 3)));
    invalidate();
  }, [geometry, mesh, shown, invalidate]);
  useEffect(() => {
    paint(geometry, mesh, tones);
    invalidate();
  }, [geometry, mesh, tones, invalidate]);
  useEffect(() => invalidate(), [planes, invalidate]);

  /** The first hit that the section leaves standing. */
  function hit(event: ThreeEvent<PointerEvent | MouseEvent>): { face: number; spot: Spot } | null {
    for (const one of event.intersections) {
      if (planes.some((plane) => plane.distanceToPoint(one.point) < 0)) continue;
      const face = mesh.faces[shown[one.faceIndex ?? -1] ?? -1];
      if (face !== undefined) return { face, spot: [one.point.x, one.point.y, one.point.z] };
    }
    return null;
  }

  return (
    <group>
      <mesh
        geometry={geometry}
        onPointerDown={(event) => (start.current = [event.clientX, event.clientY])}
        onClick={(event) => {
          const [x, y] = start.current ?? [0, 0];
          if (Math.hypot(event.clientX - x, event.clientY - y) >= 4) return;
          const found = hit(event);
          onPick(found?.face ?? null, found?.spot ?? null);
        }}
        onPointerMove={(event) => {
          event.stopPropagation();
          const now = hit(event)?.face ?? null;
          if (now !== last.current) onHover((last.current = now));
        }}
        onPointerOut={() => onHover((last.current = null))}
        onPointerMissed={() => onPick(null, null)}
      >
        <meshLambertMaterial
          vertexColors
          side={section ? DoubleSide : FrontSide}
          clippingPlanes={planes}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </mesh>
      <lineSegments geometry={lines}>
        <lineBasicMaterial color={EDGE} clippingPlanes={planes} />
      </lineSegments>
    </group>
  );
}

function edgeLines(mesh: MeshView): BufferGeometry {
  const points: number[] = [];
  for (const edge of mesh.edges)
    for (let i = 0; i + 5 < edge.length; i += 3) points.push(...edge.slice(i, i + 6));
  const made = new BufferGeometry();
  made.setAttribute("position", new BufferAttribute(new Float32Array(points), 3));
  return made;
}

function clipping({ axis, at, flipped }: Section): Plane {
  const normal = new Vector3().setComponent(axis, flipped ? 1 : -1);
  return new Plane(normal, flipped ? -at : at);
}

function paint(geometry: BufferGeometry, mesh: MeshView, tones: ReadonlyMap<number, string>) {
  const colors = geometry.getAttribute("color") as BufferAttribute;
  const cache = new Map<string, Color>();
  mesh.faces.forEach((face, triangle) => {
    const name = tones.get(face) ?? PART;
    let color = cache.get(name);
    if (!color) cache.set(name, (color = new Color(name)));
    for (let i = 0; i < 3; i++)
      colors.setXYZ(mesh.triangles[3 * triangle + i] ?? 0, color.r, color.g, color.b);
  });
  colors.needsUpdate = true;
}

const reach = (mesh: MeshView) => new Vector3(...mesh.max).sub(new Vector3(...mesh.min)).length() / 2;

/** From where tools come: an arrow towards the part for each direction. */
export function Arrows({ arrows, mesh }: { arrows: Arrow[]; mesh: MeshView }) {
  const { invalidate } = useThree();
  const made = useMemo(
    () =>
      arrows.map(({ at, direction }) => {
        const length = 0.45 * reach(mesh);
        const way = new Vector3(...direction).normalize();
        const from = new Vector3(...at).addScaledVector(way, length);
        return new ArrowHelper(way.clone().negate(), from, length, ARROW, length * 0.22, length * 0.1);
      }),
    [arrows, mesh],
  );
  useEffect(() => {
    invalidate();
    return () => made.forEach((arrow) => arrow.dispose());
  }, [made, invalidate]);
  return (
    <>
      {made.map((arrow) => (
        <primitive key={arrow.uuid} object={arrow} />
      ))}
    </>
  );
}

/** Bodies that the plan adds, seen through. */
export function AddedBodies({ bodies }: { bodies: Solid3D[] }) {
  const { invalidate } = useThree();
  const made = useMemo(
    () =>
      bodies.map((body) => {
        const geometry = new BufferGeometry();
        geometry.setAttribute("position", new BufferAttribute(new Float32Array(body.vertices), 3));
        geometry.setIndex(body.triangles);
        const flat = geometry.toNonIndexed();
        flat.computeVertexNormals();
        return { geometry: flat, edges: new EdgesGeometry(geometry, 30) };
      }),
    [bodies],
  );
  useEffect(() => {
    invalidate();
    return () =>
      made.forEach(({ geometry, edges }) => {
        geometry.dispose();
        edges.dispose();
      });
  }, [made, invalidate]);
  return (
    <>
      {made.map(({ geometry, edges }) => (
        <group key={geometry.uuid}>
          <mesh geometry={geometry}>
            <meshLambertMaterial color={ADDED} transparent opacity={0.55} depthWrite={false} />
          </mesh>
          <lineSegments geometry={edges}>
            <lineBasicMaterial color={MARK} />
          </lineSegments>
        </group>
      ))}
    </>
  );
}

/** Places that are measured between, drawn over everything. */
export function PickMarks(props: { marks: Spot[]; line: [Spot, Spot] | null; mesh: MeshView }) {
  const { marks, line, mesh } = props;
  const { invalidate } = useThree();
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(new Float32Array(line ? line.flat() : []), 3));
    return made;
  }, [line]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry, marks, invalidate]);
  return (
    <>
      {marks.map((mark, i) => (
        <mesh key={i} position={mark} renderOrder={2}>
          <sphereGeometry args={[0.012 * reach(mesh) + 0.2, 16, 12]} />
          <meshBasicMaterial color={MARK} depthTest={false} transparent />
        </mesh>
      ))}
      {line && (
        <lineSegments geometry={geometry} renderOrder={2}>
          <lineBasicMaterial color={MARK} depthTest={false} transparent />
        </lineSegments>
      )}
    </>
  );
}
