/** A load of several pieces in 3D, as it is before the first cut; its rotary turns. */
import { Form } from "react-bootstrap";
import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api, type LayoutView, type PlayView } from "../../api/client";
import { useDesk } from "../../shell/plan";
import { stockQuery } from "../../shell/stockQuery";
import { LoadBodies } from "../../views/LoadBodies";
import { Model3D, type Spot } from "../../views/Model3D";
import { after, Posed, turnedAbout } from "../../views/PlayScene";
import { fromTheFront } from "../../views/sight";
import { stockMesh } from "../../views/stockMesh";

const NO_TONES = new Map<number, string>();
const AS_IT_IS = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

export default function LoadModel({ load }: { load: LayoutView }) {
  const { plan } = useDesk();
  const [angle, setAngle] = useState(0);
  const play = useQuery({
    queryKey: ["play", plan.plan_id, plan.edition, plan.stock_followed],
    queryFn: () => api.play(plan.plan_id),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  const setups = load.setups.map((one) => one.setup);
  const posed = play.data?.loads.find((one) => setups.some((id) => one.setups.includes(id)));
  const begun = setups.map((id) => play.data?.entries.find((one) => one.setup === id)?.before ?? 0);
  const solids = useQueries({
    queries: begun.map((count) => ({
      ...stockQuery(plan.plan_id, plan.edition, count),
      enabled: posed !== undefined,
    })),
  });
  const [first] = posed?.poses ?? [];
  const stockOf = (setup: string | undefined) => solids[setups.indexOf(setup ?? "")]?.data;
  const own = stockOf(first?.setup);
  const mesh = useMemo(() => (own ? stockMesh(own, []) : null), [own]);
  const from = useFront(posed);
  const extent = useExtent(posed);
  const turn = posed?.axis ? turnedAbout(posed.axis, -angle) : AS_IT_IS;
  if (play.error) return <p className="empty">{play.error.message}</p>;
  if (!play.data || !posed || !first || !mesh || !from || !extent)
    return <p className="empty">Building what holds the stock …</p>;
  return (
    <figure className="load-model">
      <Model3D
        mesh={mesh}
        pose={after(turn, first.matrix)}
        extent={extent}
        tones={NO_TONES}
        from={from}
        share={0.65}
        label={`The load in ${load.machine}`}
        onPick={() => undefined}
        onHover={() => undefined}
        scene={
          <Posed matrix={turn}>
            <LoadBodies
              load={posed}
              fixtures={play.data.setups}
              stock={(place) => stockOf(posed.poses.find((one) => one.place === place)?.setup)}
              without={first.place}
            />
          </Posed>
        }
      />
      <figcaption>
        {posed.axis ? (
          <label>
            Rotary at{" "}
            <Form.Range
              bsPrefix="slide"
              min={0}
              max={360}
              step={5}
              value={angle}
              aria-valuetext={`${angle}°`}
              onChange={(event) => setAngle(Number(event.target.value))}
            />{" "}
            {angle}°
          </label>
        ) : (
          "As it lies before the first cut. Drag to turn the picture."
        )}
      </figcaption>
    </figure>
  );
}

type Posed3D = PlayView["loads"][number] | undefined;

function useFront(posed: Posed3D) {
  return useMemo(() => (posed ? fromTheFront(posed) : undefined), [posed]);
}

function useExtent(posed: Posed3D) {
  return useMemo(() => posed && { min: posed.min as Spot, max: posed.max as Spot }, [posed]);
}
