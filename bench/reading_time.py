"""How reading, meshing and recognition grow: python bench/reading_time.py

Plates with a grid of holes of three sizes, from about 100 to 5,000 faces: about five minutes in all. Prints the seconds
of each stage, recognition as a share of reading and meshing, and last the exponent of recognition over the number of
faces (1 is linear), beside the exponent that n log n has over the same range.
"""

from __future__ import annotations

import math
import tempfile
import time
from pathlib import Path

from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.TopoDS import TopoDS_Compound

from lean_ledger.core.features import recognise
from lean_ledger.core.geometry.solids import Body, block, rod, write_step
from lean_ledger.core.geometry.step import read_solid

SIDES = (10, 17, 32, 50, 70)


def plate(side: int) -> Body:
    cutters, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(cutters)
    for i in range(side):
        for j in range(side):
            builder.Add(cutters, rod((10 + 10 * i, 10 + 10 * j, 0), (0, 0, 1), 4 + (i + j) % 3, 8).shape)
    whole = block((0, 0, 0), (10 * side + 10, 10 * side + 10, 8))
    return Body(BRepAlgoAPI_Cut(whole.shape, cutters).Shape())


def main() -> None:
    rows: list[tuple[int, float]] = []
    with tempfile.TemporaryDirectory() as folder:
        for side in SIDES:
            path = Path(folder) / f"plate{side}.step"
            write_step(plate(side), path, "plate")
            start = time.perf_counter()
            solid = read_solid(path, path.name).solid
            read = time.perf_counter() - start
            start = time.perf_counter()
            features = recognise(solid).features
            spent = time.perf_counter() - start
            faces = len(solid.faces)
            rows.append((faces, spent))
            print(
                f"{faces:5d} faces, {path.stat().st_size / 1e6:5.1f} MB: read and meshed {read:6.2f} s, "
                f"recognised {spent:6.2f} s ({spent / read:.2f} of it), {len(features)} features"
            )
    (few, first), (many, last) = rows[0], rows[-1]
    span = math.log(many / few)
    yardstick = 1 + math.log(math.log(many) / math.log(few)) / span
    print(f"recognition grows with faces^{math.log(last / first) / span:.2f}; n log n would be {yardstick:.2f}")


if __name__ == "__main__":
    main()
