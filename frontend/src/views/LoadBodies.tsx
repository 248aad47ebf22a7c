/** All pieces of a load in 3D, each where it is, in what holds it; and what carries them all. */
import { FixtureBody, Posed, STOCK } from "./PlayScene";

export type Solid = { vertices: number[]; triangles: number[] };

export type PosedLoad = {
  setups: string[];
  poses: { place: string; setup: string; matrix: number[]; holds: boolean }[];
  shared: Solid | null;
  alone: { matrix: number[] };
};

type Props = {
  load: PosedLoad;
  /** What holds a piece of each setup. */
  fixtures: { setup: string; fixture: Solid }[];
  stock: (place: string) => Solid | undefined;
  /** The piece that is drawn elsewhere. */
  without: string | undefined;
};

export function LoadBodies({ load, fixtures, stock, without }: Props) {
  return (
    <>
      {load.shared && (
        <Posed matrix={load.alone.matrix}>
          <FixtureBody solid={load.shared} />
        </Posed>
      )}
      {load.poses.map((pose) => {
        const solid = pose.place === without ? undefined : stock(pose.place);
        const fixture = fixtures.find((one) => one.setup === pose.setup)?.fixture;
        return (
          <Posed key={pose.place} matrix={pose.matrix}>
            {solid && <FixtureBody solid={solid} color={STOCK} />}
            {fixture && pose.holds && <FixtureBody solid={fixture} />}
          </Posed>
        );
      })}
    </>
  );
}
