"""What else may go wrong with what is gripped: a finished seat, what is yet to be cut, what the jaws would bend."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from lean_ledger.core.basis.findings import Finding
from lean_ledger.core.basis.same import Same
from lean_ledger.core.features import Pocket, Slot, Turned
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import dot
from lean_ledger.core.holding.chuck import RoundHold
from lean_ledger.core.holding.ears import ear_findings
from lean_ledger.core.holding.hold import Hold, error, warning
from lean_ledger.core.holding.toe_clamps import ToeHold
from lean_ledger.core.holding.vise import ViseHold
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.core.setups.frame import Frame
from lean_ledger.core.setups.sides import is_outline
from lean_ledger.library.types import Material

THIN_WALL = 0.1  # of what it spans that a wall has to be thick for the jaws not to bend it
THIN_FLOOR = 0.05  # of the pocket's width
WIDE = 0.5  # of the jaws' opening from which a pocket leaves its floor to carry the pressure


def gripped_features(hold: Hold) -> tuple[str, ...]:
    """Features of the part that jaws or clamps lie against."""
    if isinstance(hold, ViseHold | ToeHold):
        names = [id for contact in hold.contacts for id in contact.features]
    elif isinstance(hold, RoundHold):
        names = [r.feature for r in hold.gripped if r.feature]
    else:
        names = []
    return tuple(dict.fromkeys(names))


def grip_findings(setup: str, hold: Hold, plan: Plan, material: Material) -> list[Finding]:
    gripped = gripped_features(hold)
    return [
        *_seats(setup, hold, plan, gripped), *_own_work(setup, hold, gripped), *_thin(setup, hold),
        *(ear_findings(setup, hold, material) if isinstance(hold, ViseHold) else ()),
    ]  # fmt: skip


def _seats(setup: str, hold: Hold, plan: Plan, gripped: tuple[str, ...]) -> Iterator[Finding]:
    for id in gripped:
        said = plan.said_of(id)
        fine = said.tolerance or (f"Ra {said.finish:g}" if said.finish is not None else "")
        if fine:
            yield warning(
                setup, "seat-gripped", f"{hold.fixture.name} grips {id}, which is to be {fine}.",
                "Jaws mark a finished seat. Use soft jaws or thin sheet between, or grip elsewhere.", (id,),
            )  # fmt: skip


def _own_work(setup: str, hold: Hold, gripped: tuple[str, ...]) -> Iterator[Finding]:
    part = hold.held.part
    for id in gripped:
        feature = part.by_id[id]
        turned_here = isinstance(feature, Turned) and feature.where in ("outside", "taper", "groove")
        turned_here = turned_here and not is_outline(part, feature, hold.frame.up)  # goes on past the jaws
        if id in hold.held.here and turned_here:
            yield error(
                setup, "grips-own-work", f"{hold.fixture.name} grips {id}, which this setup is to cut.",
                "A tool would run into the jaws. Grip another stretch, or make it in another setup.",
            )  # fmt: skip


def _thin(setup: str, hold: Hold) -> Iterator[Finding]:
    """Pockets beside or between the jaws, at the height at which they press."""
    if not isinstance(hold, ViseHold):
        return
    there = hold.held.made | hold.held.here
    jaw_top, bottom = hold.jaw_top, hold.floor
    for feature, upright, ring in _closed_recesses(Same(hold.held.part), hold.frame):
        if feature.id not in there:
            continue
        floor = ring.min[2]
        low, high = (floor, floor + feature.depth) if upright else (floor - feature.depth, floor)
        if low > jaw_top or high < bottom:
            continue
        yield from _wall(setup, hold, feature, ring)
        if not getattr(feature, "through", False):
            yield from _floor(setup, hold, feature, ring, low if upright else high)


@lru_cache(maxsize=64)
def _closed_recesses(part: Same[Part], frame: Frame) -> tuple[tuple[Pocket | Slot, bool, Bounds], ...]:
    """Those that are walled all around, whether they open upwards, and the box around the ring of their floor."""
    found = []
    for feature in part.value.features:
        if not isinstance(feature, Pocket | Slot) or not feature.region:
            continue
        along = dot(feature.direction, frame.up)
        if abs(along) >= 0.999 and not (isinstance(feature, Slot) and feature.open_edges):
            xs, ys, zs = zip(*(frame.point(p) for p in feature.region[0]), strict=True)
            found.append((feature, along > 0, Bounds((min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs)))))
    return tuple(found)


def _wall(setup: str, hold: ViseHold, feature: Pocket | Slot, ring: Bounds) -> Iterator[Finding]:
    front, back = hold.gripped_y
    thick = min(ring.min[1] - front, back - ring.max[1])
    span = min(ring.size[0], 2 * feature.depth)
    if 0 < thick < THIN_WALL * span:
        yield warning(
            setup, "thin-wall", f"The jaws press on a wall {thick:.1f} thick beside {feature.id}.",
            f"It spans {span:.0f}; below {THIN_WALL:g} of that it bends and springs back. Cut {feature.id} in a later "
            "setup, grip below it, or fill it while it is held.", (feature.id,),
        )  # fmt: skip


def _floor(setup: str, hold: ViseHold, feature: Pocket | Slot, ring: Bounds, level: float) -> Iterator[Finding]:
    box = hold.held.box
    upright = dot(feature.direction, hold.frame.up) > 0
    thick = level - box.min[2] if upright else box.max[2] - level
    width = ring.size[1]
    if thick < THIN_FLOOR * width and width > WIDE * hold.opening:
        yield warning(
            setup, "thin-floor", f"The jaws press over {feature.id}, whose floor is {thick:.1f} thick.",
            f"It is {width:.0f} wide; below {THIN_FLOOR:g} of that it bulges. Cut it in a later setup, or turn the "
            "part so that the jaws press along it.", (feature.id,),
        )  # fmt: skip
