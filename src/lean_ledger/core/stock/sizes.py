"""What is bought for a part: its form, and its sizes over the part, from the shop's list, or fixed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot, sqrt

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import Feature, Hole, flat_side
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.near_net import NearNet
from lean_ledger.core.geometry.vectors import Vec, dot
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Allowances, Plan, Said
from lean_ledger.core.setups.bar_lies import AT_SIZE, COAXIAL, along_of, bar_centre, has_flats, square_of
from lean_ledger.core.stock.block import Section, StockState, hexagon_width
from lean_ledger.library.types import Library, StockSizes

SECTIONS = {"round bar": Section.ROUND, "hexagonal bar": Section.HEX}
AXES: tuple[Vec, Vec, Vec] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


@dataclass(frozen=True)
class Sized:
    """Stock with its sizes settled: what stands over the part on each side, mm. `named` is what to order."""

    allowances: Allowances
    section: Section
    along: int  # index of the axis of a bar's length, of a plate's thickness
    named: str
    missing: str = ""  # why the list has no size; the allowances then stand in

    def state(self, part: Part) -> StockState:
        over = {side: self.allowances.on(side) for side in DIRECTIONS}
        volume = part.near_net.volume if part.near_net is not None else 0.0
        bounds = part.model.solid.bounds
        return StockState(bounds, over, section=self.section, along=AXES[self.along], model_volume=volume)


def settled(plan: Plan, part: Part, library: Library) -> tuple[Plan, Sized]:
    """The plan with the allowances that its stock really has; what the rest is computed from."""
    sized = sized_stock(plan, part, library.stock)
    return replace(plan, allowances=sized.allowances), sized


def sized_stock(plan: Plan, part: Part, sizes: StockSizes) -> Sized:
    """Lengths mm. A list without a size that is large enough is said in `missing`."""
    choice, bounds = plan.stock, part.model.solid.bounds
    if part.near_net is not None:
        return _as_it_comes(part.near_net, bounds, plan.allowances)
    along = along_of(plan, part)
    across = tuple(i for i in range(3) if i != along)
    section = SECTIONS.get(choice.form, Section.BLOCK)
    wanted = [bounds.size[i] + _over(plan.allowances, i) for i in range(3)]
    missing = ""
    if section != Section.BLOCK:
        least = _across(part, along, plan.allowances, section)
        listed = sizes.round if section == Section.ROUND else sizes.hexagonal
        size = least
        if choice.sizing == "fixed":
            size = choice.fixed[across[0]]
        elif choice.sizing == "next size up":
            size, missing = _next(least, listed, choice.form)
        wanted[across[0]] = wanted[across[1]] = size
        if section == Section.HEX:
            wanted[sum(across) - square_of(part, along)] = hexagon_width(size)
    elif choice.sizing == "fixed":
        wanted = list(choice.fixed)
    elif choice.sizing == "next size up" and choice.form == "plate":
        wanted[along], missing = _next(wanted[along], sizes.plate, "plate")
    elif choice.sizing == "next size up" and choice.form == "rectangular bar":
        pair, missing = _next_pair((wanted[across[0]], wanted[across[1]]), sizes.rectangular)
        wanted[across[0]], wanted[across[1]] = pair
    elif choice.sizing == "next size up":
        wanted = [float(-(-round(w, 6) // 1)) for w in wanted]  # a sawn block comes in whole millimetres
    if section != Section.BLOCK and choice.sizing == "fixed":
        wanted[along] = choice.fixed[along]
    allowances = plan.allowances
    for i, axis in enumerate("XYZ"):
        over, asked = wanted[i] - bounds.size[i], (plan.allowances.on(f"{axis}-"), plan.allowances.on(f"{axis}+"))
        if section != Section.BLOCK and i != along:
            centre = bar_centre(part, along)[i]
            below = round(wanted[i] / 2 - (centre - bounds.min[i]), 4)
            above = round(wanted[i] / 2 - (bounds.max[i] - centre), 4)
        else:
            below, above = _shared(over, *asked)
        allowances = allowances.with_side(f"{axis}-", below).with_side(f"{axis}+", above)
    return Sized(allowances, section, along, _named(choice.form, along, wanted), missing)


def listed_sides(plan: Plan, part: Part, sizes: StockSizes) -> tuple[str, ...]:
    """Sides on which the part is as large as the next listed size of what is bought, so that they may stay as they are
    bought: of a plate's thickness, of a flat bar's width and thickness, of a hexagonal bar all that go around it.

    A part of 48 × 20 from a flat bar of 50 × 20 has two such sides, those 20 apart.
    """
    choice = plan.stock
    along = along_of(plan, part)
    across = tuple(i for i in range(3) if i != along)
    tried = {"plate": ((along,),), "rectangular bar": (across, across[:1], across[1:])}
    if choice.form == "hexagonal bar" and has_flats(part, along, square_of(part, along)):
        tried["hexagonal bar"] = (across,)
    for axes in tried.get(choice.form, ()):
        sides = tuple(f"{'XYZ'[i]}{sign}" for i in axes for sign in "-+")
        bare = replace(plan, stock=replace(choice, sizing="next size up"), allowances=without(plan.allowances, sides))
        sized = sized_stock(bare, part, sizes)
        # a hexagon's corners may be turned off
        flat = axes if choice.form != "hexagonal bar" else (square_of(part, along),)
        over = [sized.allowances.on(f"{'XYZ'[i]}{sign}") for i in flat for sign in "-+"]
        ends = all(_ends_flat(part, side) for side in sides) or choice.form == "hexagonal bar"
        if not sized.missing and ends and all(abs(by) < AT_SIZE for by in over):
            return sides
    return ()


def _ends_flat(part: Part, side: str) -> bool:
    """Whether a flat side of the part is the farthest out on a side: a round wall leaves stock beside where it is."""
    out, solid = DIRECTIONS[side], part.model.solid
    farthest = max(dot(out, solid.bounds.min), dot(out, solid.bounds.max))
    flats = (flat_side(feature) for feature in part.features)
    return any(
        flat is not None and dot(flat.normal, out) > COAXIAL and abs(dot(flat.region[0][0], out) - farthest) < AT_SIZE
        for flat in flats
    )


def asked_on(sides: Sequence[str], plan: Plan, part: Part) -> Said | None:
    """What a drawing asks of a flat side that looks out of one of the sides, or between them; None where nothing."""
    axes = {"XYZ".index(side[0]) for side in sides}
    for feature in part.features:
        flat, said = flat_side(feature), plan.said_of(feature.id)
        if flat is not None and (said.tolerance or said.finish is not None):
            if any(flat.normal[i] ** 2 > 0.01 for i in axes):
                return said
    return None


def without(allowances: Allowances, sides: Sequence[str]) -> Allowances:
    for side in sides:
        allowances = allowances.with_side(side, 0.0)
    return allowances


def _as_it_comes(stock: NearNet, part: Bounds, allowances: Allowances) -> Sized:
    """What near-net stock has over the part's box on each side; below 0 where the part sticks out of it."""
    for i, axis in enumerate("XYZ"):
        allowances = allowances.with_side(f"{axis}-", round(part.min[i] - stock.bounds.min[i], 4) + 0.0)
        allowances = allowances.with_side(f"{axis}+", round(stock.bounds.max[i] - part.max[i], 4) + 0.0)
    size = " × ".join(f"{s:g}" for s in (round(v, 2) for v in stock.bounds.size))
    return Sized(allowances, Section.NEAR_NET, 2, f"{stock.file}, {size}")


def over_features(part: Part) -> list[tuple[Feature, float | None]]:
    """Near-net stock: the most that stands on each feature that has any, mm; None for a hole that is not cored."""
    if part.near_net is None:
        return []
    found: list[tuple[Feature, float | None]] = []
    for feature in part.features:
        over = part.near_net.over_faces(feature.faces)
        if over > 0:
            solid = isinstance(feature, Hole) and over > 0.45 * feature.diameter
            found.append((feature, None if solid else over))
    return found


def near_net_findings(part: Part) -> list[Finding]:
    """Features that the casting lacks material for."""
    if part.near_net is None:
        return []
    short = {f.id: min(part.near_net.over[i] for i in f.faces) for f in part.features if f.faces}
    lacking = {id: -value for id, value in short.items() if value < 0}
    if not lacking:
        return []
    told = ", ".join(f"{id} by {value:.2f}" for id, value in list(lacking.items())[:4])
    return [
        Finding(
            "stock-small", Severity.ERROR, Chapter.SETUPS, f"The part sticks out of its stock: {told}.",
            "The model of the stock is too small there, or lies askew on the part. Move it, or ask for another.",
            features=tuple(lacking),
        )
    ]  # fmt: skip


def stock_findings(sized: Sized, plan: Plan) -> list[Finding]:
    """A size that the list does not have; a fixed size that the part does not come out of."""
    found = []
    if sized.missing:
        found.append(
            Finding(
                "no-stock-size", Severity.ERROR, Chapter.SETUPS, sized.missing,
                "Take another form, more setups from a block, or order a size by hand.",
                cures=(Cure("Sizes over the part", {"change": "set-stock", "sizing": "over the part"}),),
            )
        )  # fmt: skip
    short = {side: -sized.allowances.on(side) for side in DIRECTIONS if sized.allowances.on(side) < -1e-6}
    if short and plan.stock.form != "near-net":
        told = ", ".join(f"{side} by {value:.1f}" for side, value in short.items())
        found.append(
            Finding(
                "stock-small", Severity.ERROR, Chapter.SETUPS, f"The part is larger than its stock: {told}.",
                f"{sized.named} is fixed and does not follow the part. Take a larger size, or let it follow.",
                cures=(Cure("Sizes over the part", {"change": "set-stock", "sizing": "over the part"}),
                       Cure("Next size up", {"change": "set-stock", "sizing": "next size up"})),
            )
        )  # fmt: skip
    return found


def _over(allowances: Allowances, axis: int) -> float:
    name = "XYZ"[axis]
    return allowances.on(f"{name}-") + allowances.on(f"{name}+")


def _across(part: Part, along: int, allowances: Allowances, section: Section) -> float:
    """Diameter or size across flats that the part's shadow along the bar just fits in, with the least allowance over
    it.
    """
    k = square_of(part, along)
    j = 3 - along - k
    centre = bar_centre(part, along)
    points = [(v[j] - centre[j], v[k] - centre[k]) for v in part.model.solid.mesh.vertices]
    over = min(allowances.on(f"{'XYZ'[i]}{sign}") for i in (j, k) for sign in "-+")
    if section == Section.ROUND:
        return round(2 * (max(hypot(x, y) for x, y in points) + over), 3)
    normals = ((0.0, 1.0), (sqrt(3) / 2, 0.5), (sqrt(3) / 2, -0.5))
    reach = max(abs(x * a + y * b) for x, y in points for a, b in normals)
    return round(2 * (reach + over), 3)


def _next(least: float, listed: Sequence[float], form: str) -> tuple[float, str]:
    fitting = [s for s in listed if s >= least - 1e-6]
    if fitting:
        return min(fitting), ""
    return least, f"No {form} of the list is large enough: {least:.1f} are needed, {max(listed):g} is the largest."


def _next_pair(least: tuple[float, float], listed: Sequence[tuple[float, float]]) -> tuple[tuple[float, float], str]:
    """The bar with the least section, laid either way."""
    both = [pair for w, t in listed for pair in ((w, t), (t, w))]
    fitting = [p for p in both if p[0] >= least[0] - 1e-6 and p[1] >= least[1] - 1e-6]
    if fitting:
        return min(fitting, key=lambda p: (p[0] * p[1], p)), ""
    return least, f"No rectangular bar of the list is large enough: {least[0]:.1f} × {least[1]:.1f} are needed."


def _shared(over: float, below: float, above: float) -> tuple[float, float]:
    """What stands over both sides of an axis, parted: as was asked for, the surplus evenly over the sides that have
    any.
    """
    surplus = over - below - above
    if abs(surplus) < 1e-9:
        return below, above
    if below <= 0 < above:
        return below, round(above + surplus, 4)
    if above <= 0 < below:
        return round(below + surplus, 4), above
    return round(below + surplus / 2, 4), round(above + surplus / 2, 4)


def _named(form: str, along: int, size: Sequence[float]) -> str:
    """What to order: 'round bar 50 × 84.5'."""
    across = [size[i] for i in range(3) if i != along]
    if form == "round bar":
        return f"round bar Ø{across[0]:g} × {size[along]:g}"
    if form == "hexagonal bar":
        return f"hexagonal bar {min(across):g} across flats × {size[along]:g}"
    if form == "rectangular bar":
        return f"rectangular bar {across[0]:g} × {across[1]:g} × {size[along]:g}"
    if form == "plate":
        return f"plate {size[along]:g}, {across[0]:g} × {across[1]:g}"
    return "block " + " × ".join(f"{s:g}" for s in size)
