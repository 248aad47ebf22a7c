/** The part, on which the face is pointed at that an operation goes to. */
import { useMemo, useState } from "react";
import type { EntryView } from "../../api/client";
import { NumberCell } from "../../shell/NumberCell";
import { lengthText } from "../../shell/numbers";
import { usePartMesh } from "../../shell/mesh";
import { useDesk } from "../../shell/plan";
import { useUnit } from "../../shell/selection";
import { Model3D } from "../../views/Model3D";

const OWN = "#9fb2cc";
const POINTED = "#3f8f7b";

export default function DepthByFace(props: {
  entry: EntryView;
  set: (values: Record<string, unknown>) => Promise<unknown>;
  onDone: () => void;
}) {
  const { entry, set, onDone } = props;
  const { plan } = useDesk();
  const { unit } = useUnit();
  const [face, setFace] = useState<number | null>(null);
  const [beyond, setBeyond] = useState(entry.measured?.beyond ?? 0);
  const mesh = usePartMesh();
  const tones = useMemo(() => {
    const found = new Map<number, string>();
    for (const feature of plan.features)
      if (entry.features.includes(feature.id)) for (const one of feature.faces) found.set(one, OWN);
    if (face !== null) found.set(face, POINTED);
    return found;
  }, [plan.features, entry.features, face]);
  const owner = plan.features.find((f) => face !== null && f.faces.includes(face))?.id ?? "that face";
  if (!mesh.data) return <p className="empty">{mesh.error?.message ?? "Drawing the part …"}</p>;
  return (
    <div className="depth-by-face">
      <p aria-live="polite">
        {face === null ? (
          <span className="soft">Point at the floor, shoulder or outer face that it goes to.</span>
        ) : (
          <button
            type="button"
            className="act main"
            onClick={() => {
              void set({ face, beyond });
              onDone();
            }}
          >
            To {owner}
          </button>
        )}{" "}
        <label>
          and beyond it{" "}
          <NumberCell
            label="Beyond the face"
            kind="length"
            unit={unit}
            column="beyond"
            value={beyond}
            text={lengthText(beyond, unit, 2)}
            onCommit={(value) => setBeyond(value ?? 0)}
          />{" "}
          {unit}
        </label>
      </p>
      <Model3D
        mesh={mesh.data}
        tones={tones}
        label="The part, to point at"
        onPick={(picked) => setFace(picked)}
        onHover={() => undefined}
      />
    </div>
  );
}
