/** The part in 3D: shaded softly, edges drawn dark, features lit. Draws what it is handed. */
import { Canvas, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { Box3, type Camera, OrthographicCamera, Vector3 } from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { MeshView } from "../api/client";
import {
  AddedBodies,
  Arrows,
  ModelBody,
  PickMarks,
  type Section,
  type Solid3D,
  type Spot,
} from "./ModelBody";
import { Posed } from "./PlayScene";

export type { Section, Spot } from "./ModelBody";

export const VIEWS: Record<string, [number, number, number]> = {
  Isometric: [1, -1, 1],
  Top: [0, 0, 1],
  Front: [0, -1, 0],
  Right: [1, 0, 0],
  Back: [0, 1, 0],
  Left: [-1, 0, 0],
  Bottom: [0, 0, -1],
};

export type Arrow = { at: [number, number, number]; direction: [number, number, number] };

type Props = {
  mesh: MeshView;
  /** Tone of each face; faces without one have the part's own. */
  tones: ReadonlyMap<number, string>;
  onPick: (face: number | null, spot: Spot | null) => void;
  onHover: (face: number | null) => void;
  /** Faces that are not drawn. */
  hidden?: ReadonlySet<number>;
  section?: Section | null;
  arrows?: Arrow[];
  /** Bodies that the plan adds to the part. */
  added?: Solid3D[];
  /** Places that were pointed at, and the line between them. */
  marks?: [number, number, number][];
  line?: [[number, number, number], [number, number, number]] | null;
  /** More tools, beside the views. */
  children?: ReactNode;
  label?: string;
  /** More that stands in the picture. */
  scene?: ReactNode;
  /** Where the mesh is, 3 × 4 row by row, where it is not in its own coordinates. */
  pose?: number[] | undefined;
  /** What is brought into sight, where that is not the mesh itself; and how much of the picture it fills. */
  extent?: { min: Spot; max: Spot };
  share?: number;
  /** Looks from here and leaves the choice of views out: small pictures that stand side by side. */
  from?: { direction: Spot; above: Spot };
};

const NONE: ReadonlySet<number> = new Set();
const NOTHING: Solid3D[] = [];

export function Model3D(props: Props) {
  const {
    mesh,
    tones,
    onPick,
    onHover,
    hidden = NONE,
    section = null,
    arrows = [],
    marks = [],
    line,
    from,
  } = props;
  const [view, setView] = useState({ name: "Isometric", turn: 0 });
  const show = (name: string) => setView((last) => ({ name, turn: last.turn + 1 }));
  const canvas = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const box = canvas.current;
    const again = (event: KeyboardEvent) => {
      if (event.key === "f") setView((last) => ({ ...last, turn: last.turn + 1 }));
    };
    box?.addEventListener("keydown", again);
    return () => box?.removeEventListener("keydown", again);
  }, []);
  return (
    <div className="model">
      {!from && (
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
      )}
      {props.children}
      <div
        className="model-canvas"
        tabIndex={0}
        role="application"
        aria-label={`${props.label ?? "The part"} in 3D. Drag to turn, Shift and drag to move, wheel to come nearer.`}
        ref={canvas}
      >
        <Canvas
          orthographic
          frameloop="demand"
          gl={{ antialias: true, preserveDrawingBuffer: true, localClippingEnabled: true }}
          dpr={[1, 2]}
          flat
        >
          <ambientLight intensity={1.45} />
          <Headlight from={from} />
          {props.pose ? (
            <Posed matrix={props.pose}>
              <ModelBody {...{ mesh, tones, hidden, section, onPick, onHover }} />
            </Posed>
          ) : (
            <ModelBody {...{ mesh, tones, hidden, section, onPick, onHover }} />
          )}
          <AddedBodies bodies={props.added ?? NOTHING} />
          <Arrows arrows={arrows} mesh={mesh} />
          <PickMarks marks={marks} line={line ?? null} mesh={mesh} />
          {props.scene}
          <Eye within={props.extent ?? mesh} share={props.share ?? 0.9} view={view} from={from} />
        </Canvas>
      </div>
    </div>
  );
}

const DAYLIGHT: Spot = [-0.4, -0.8, 1.6];

function Headlight({ from }: { from: Props["from"] }) {
  const { camera, invalidate } = useThree();
  useEffect(() => {
    invalidate();
  }, [camera, invalidate]);
  const at = from ? (from.above.map((v, i) => 1.6 * v + 0.5 * (from.direction[i] ?? 0)) as Spot) : DAYLIGHT;
  return <directionalLight position={at} intensity={1.5} />;
}

/** Camera and its control: looks along the chosen view with the whole part in sight. */
function Eye({
  within,
  share,
  view,
  from,
}: {
  within: { min: Spot; max: Spot };
  share: number;
  view: { name: string; turn: number };
  from: Props["from"];
}) {
  const { camera, gl, size, invalidate } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  useEffect(() => {
    const made = orbit(camera, gl.domElement, invalidate);
    controls.current = made;
    return () => made.dispose();
  }, [camera, gl, invalidate]);
  const extent = useMemo(() => new Box3(new Vector3(...within.min), new Vector3(...within.max)), [within]);
  const sight = useMemo(() => (from ? sightOf(from) : sightTo(view.name)), [from, view.name]);
  useEffect(() => {
    if (camera instanceof OrthographicCamera) aim(camera, controls.current, extent, sight, size, share);
    invalidate();
  }, [extent, view, sight, camera, size, share, invalidate]);
  return null;
}

function orbit(camera: Camera, canvas: HTMLElement, redraw: () => void): OrbitControls {
  const made = new OrbitControls(camera, canvas);
  made.enableDamping = false;
  made.addEventListener("change", redraw);
  return made;
}

type Sight = { direction: Vector3; above: Vector3 };

function sightTo(view: string): Sight {
  const direction = new Vector3(...(VIEWS[view] ?? [1, -1, 1])).normalize();
  const upright = Math.abs(direction.z) < 0.9;
  return { direction, above: new Vector3(0, upright ? 0 : 1, upright ? 1 : 0) };
}

function sightOf(from: { direction: Spot; above: Spot }): Sight {
  return { direction: new Vector3(...from.direction).normalize(), above: new Vector3(...from.above) };
}

function aim(
  camera: OrthographicCamera,
  controls: OrbitControls | null,
  box: Box3,
  sight: Sight,
  size: { width: number; height: number },
  share: number,
) {
  const middle = box.getCenter(new Vector3());
  const radius = box.getSize(new Vector3()).length() / 2;
  camera.up.copy(sight.above);
  camera.position.copy(middle).addScaledVector(sight.direction, radius * 8);
  camera.near = 0.1;
  camera.far = radius * 20;
  camera.lookAt(middle);
  camera.zoom = share * fit(box, camera, size.width, size.height);
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
  return Math.min(width / Math.max(extent.x, 1e-6), height / Math.max(extent.y, 1e-6));
}
