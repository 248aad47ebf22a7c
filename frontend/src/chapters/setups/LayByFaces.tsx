/** How the stock lies, by pointing at the part's faces: the one it rests on, the one at the fixed jaw. */
import { useMemo, useState } from "react";
import type { SetupView } from "../../api/client";
import { usePartMesh } from "../../shell/mesh";
import { useDesk } from "../../shell/plan";
import { Model3D } from "../../views/Model3D";

const RESTS = "#b9a777";
const AT_JAW = "#9fb2cc";
const POINTED = "#3f8f7b";

export function LayByFaces({ setup }: { setup: SetupView }) {
  const { plan, change } = useDesk();
  const [pointed, setPointed] = useState<number | null>(null);
  const mesh = usePartMesh();
  const { lies } = setup.hold;
  const tones = useMemo(() => {
    const found = new Map<number, string>();
    for (const face of lies.base_faces) found.set(face, RESTS);
    for (const face of lies.back_faces) found.set(face, AT_JAW);
    if (pointed !== null) found.set(pointed, POINTED);
    return found;
  }, [lies, pointed]);
  const name = plan.features.find((f) => pointed !== null && f.faces.includes(pointed))?.id ?? "this face";
  const lay = (to: "rest" | "jaw") => {
    if (pointed !== null) void change({ change: "lay-on-face", setup: setup.id, face: pointed, to });
    setPointed(null);
  };
  if (!mesh.data) return <p className="empty">{mesh.error ? mesh.error.message : "Drawing the part …"}</p>;
  return (
    <div className="lay-by-faces">
      <p className="tone-legend">
        <span>
          <i style={{ background: RESTS }} /> rests on {faceWords(lies.base, lies.base_named)}
        </span>
        <span>
          <i style={{ background: AT_JAW }} /> {backWords(setup)} {faceWords(lies.back, lies.back_named)}
        </span>
      </p>
      <p className="lay-choices" aria-live="polite">
        {pointed === null ? (
          <span className="soft">Point at a face of the part.</span>
        ) : (
          <>
            <button type="button" className="act" onClick={() => lay("rest")}>
              Rest on {name}
            </button>
            <button type="button" className="act" onClick={() => lay("jaw")}>
              {name} {backWords(setup)}
            </button>
            <button type="button" className="act quiet" onClick={() => setPointed(null)}>
              Neither
            </button>
          </>
        )}
      </p>
      <Model3D
        mesh={mesh.data}
        tones={tones}
        label="The part, to be laid"
        onPick={(face) => setPointed(face)}
        onHover={() => undefined}
      />
    </div>
  );
}

export const backWords = (setup: SetupView) =>
  setup.hold.kind === "vise" ? "at the fixed jaw" : "at the back";

export const faceWords = (side: string, named: string) => (named ? `${named} (${side})` : side);
