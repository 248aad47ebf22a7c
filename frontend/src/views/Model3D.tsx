/** The part in 3D: shaded softly, edges drawn dark, features lit. Draws what it is handed. */
import { Canvas, useThree, type ThreeEvent } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  type Camera,
  Color,
  OrthographicCamera,
  Vector3,
} from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { MeshView } from "../api/client";

export const VIEWS: Record<string, [number, number, number]> = {
  Isometric: [1, -1, 1],
  Top: [0, 0, 1],
  Front: [0, -1, 0],
  Right: [1, 0, 0],
  Back: [0, 1, 0],
  Left: [-1, 0, 0],
  Bottom: [0, 0, -1],
};

type Props = {
  mesh: MeshView;
  /** Tone of each face; faces without one have the part's own. */
  tones: ReadonlyMap<number, string>;
  onPick: (face: number | null) => void;
  onHover: (face: number | null) => void;
};

const PART = "#dcd9cc";
const EDGE = "#22281f";

export function Model3D(props: Props) {
  const [view, setView] = useState({ name: "Isometric", turn: 0 });
  const show = (name: string) => setView((last) => ({ name, turn: last.turn + 1 }));
  return (
    <div className="model">
      <div className="model-views" role="group" aria-label="Views">
        {Object.keys(VIEWS).map((name) => (
          <button
            key={name}
            type="button"
            className="act quiet"
            aria-pressed={view.name === name}
            onClick={() => show(name)}
          >
            {name}
          </button>
        ))}
      </div>
      <div
        className="model-canvas"
        tabIndex={0}
        role="application"
        aria-label="The part in 3D. Drag to turn, Shift and drag to move, wheel to come nearer."
        onKeyDown={(event) => {
          if (event.key === "f") show(view.name);
        }}
      >
        <Canvas
          orthographic
          frameloop="demand"
          gl={{ antialias: true, preserveDrawingBuffer: true }}
          dpr={[1, 2]}
          flat
        >
          <ambientLight intensity={1.45} />
          <Headlight />
          <Body {...props} />
          <Eye mesh={props.mesh} view={view} />
        </Canvas>
      </div>
    </div>
  );
}

function Headlight() {
  const { camera, invalidate } = useThree();
  useEffect(() => {
    invalidate();
  }, [camera, invalidate]);
  return <directionalLight position={[-0.4, -0.8, 1.6]} intensity={1.5} />;
}

function Body({ mesh, tones, onPick, onHover }: Props) {
  const { invalidate } = useThree();
  const start = useRef<[number, number] | null>(null);
  const last = useRef<number | null>(null);
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(new Float32Array(mesh.vertices), 3));
    made.setIndex(mesh.triangles);
    made.computeVertexNormals();
    made.setAttribute("color", new BufferAttribute(new Float32Array(mesh.vertices.length), 3));
    return made;
  }, [mesh]);
  const lines = useMemo(() => {
    const points: number[] = [];
    for (const edge of mesh.edges) {
      for (let i = 0; i + 5 < edge.length; i += 3) points.push(...edge.slice(i, i + 6));
    }
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(new Float32Array(points), 3));
    return made;
  }, [mesh]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  useEffect(() => () => lines.dispose(), [lines]);
  useEffect(() => {
    const colors = geometry.getAttribute("color") as BufferAttribute;
    const cache = new Map<string, Color>();
    const tone = (face: number) => {
      const name = tones.get(face) ?? PART;
      let color = cache.get(name);
      if (!color) cache.set(name, (color = new Color(name)));
      return color;
    };
    mesh.faces.forEach((face, triangle) => {
      const color = tone(face);
      for (let i = 0; i < 3; i++)
        colors.setXYZ(mesh.triangles[3 * triangle + i] ?? 0, color.r, color.g, color.b);
    });
    colors.needsUpdate = true;
    invalidate();
  }, [geometry, mesh, tones, invalidate]);

  const face = (event: ThreeEvent<PointerEvent | MouseEvent>) => mesh.faces[event.faceIndex ?? -1] ?? null;
  return (
    <group>
      <mesh
        geometry={geometry}
        onPointerDown={(event) => (start.current = [event.clientX, event.clientY])}
        onClick={(event) => {
          const [x, y] = start.current ?? [0, 0];
          if (Math.hypot(event.clientX - x, event.clientY - y) < 4) onPick(face(event));
        }}
        onPointerMove={(event) => {
          event.stopPropagation();
          const now = face(event);
          if (now !== last.current) onHover((last.current = now));
        }}
        onPointerOut={() => onHover((last.current = null))}
        onPointerMissed={() => onPick(null)}
      >
        <meshLambertMaterial vertexColors polygonOffset polygonOffsetFactor={1} polygonOffsetUnits={1} />
      </mesh>
      <lineSegments geometry={lines}>
        <lineBasicMaterial color={EDGE} />
      </lineSegments>
    </group>
  );
}

/** Camera and its control: looks along the chosen view with the whole part in sight. */
function Eye({ mesh, view }: { mesh: MeshView; view: { name: string; turn: number } }) {
  const { camera, gl, size, invalidate } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  useEffect(() => {
    const made = orbit(camera, gl.domElement, invalidate);
    controls.current = made;
    return () => made.dispose();
  }, [camera, gl, invalidate]);
  useEffect(() => {
    if (camera instanceof OrthographicCamera) aim(camera, controls.current, mesh, view.name, size);
    invalidate();
  }, [mesh, view, camera, size, invalidate]);
  return null;
}

function orbit(camera: Camera, canvas: HTMLElement, redraw: () => void): OrbitControls {
  const made = new OrbitControls(camera, canvas);
  made.enableDamping = false;
  made.addEventListener("change", redraw);
  return made;
}

function aim(
  camera: OrthographicCamera,
  controls: OrbitControls | null,
  mesh: MeshView,
  view: string,
  size: { width: number; height: number },
) {
  const box = new Box3(new Vector3(...mesh.min), new Vector3(...mesh.max));
  const middle = box.getCenter(new Vector3());
  const radius = box.getSize(new Vector3()).length() / 2;
  const direction = new Vector3(...(VIEWS[view] ?? [1, -1, 1])).normalize();
  const upright = Math.abs(direction.z) < 0.9;
  camera.up.set(0, upright ? 0 : 1, upright ? 1 : 0);
  camera.position.copy(middle).addScaledVector(direction, radius * 4);
  camera.near = 0.1;
  camera.far = radius * 10;
  camera.lookAt(middle);
  camera.zoom = fit(box, camera, size.width, size.height);
  camera.updateProjectionMatrix();
  controls?.target.copy(middle);
  controls?.update();
}

function fit(box: Box3, camera: OrthographicCamera, width: number, height: number): number {
  camera.updateMatrixWorld();
  const seen = new Box3();
  for (const x of [box.min.x, box.max.x])
    for (const y of [box.min.y, box.max.y])
      for (const z of [box.min.z, box.max.z])
        seen.expandByPoint(new Vector3(x, y, z).applyMatrix4(camera.matrixWorldInverse));
  const extent = seen.getSize(new Vector3());
  return 0.9 * Math.min(width / Math.max(extent.x, 1e-6), height / Math.max(extent.y, 1e-6));
}
