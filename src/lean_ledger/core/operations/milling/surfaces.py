"""Free surfaces and rounded edges: opened by levels of a flat mill, finished by a ball in rows or in levels."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_ledger.core.basis.findings import Cure, Figure, Severity
from lean_ledger.core.features import Fillet, FreeSurface
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Settled, Wish, settle
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import Down
from lean_ledger.core.operations.milling.surface_paths import (
    Over,
    Room,
    levels_path,
    opening_path,
    row_share,
    rows_path,
    step_for,
    surface_of,
    tips_over,
    ways_by_area,
)
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.plan import Strategy
from lean_ledger.library.types import Tool, ToolKind

CUSP = 0.01  # mm high between two ways of the ball, where no finish is asked for
CUSP_OF_RA = 4.0  # × Ra: cusps are about four times as high as the mean roughness that they make
LEAVE = 0.3  # mm that opening leaves to the ball
STAIR = 0.25  # × diameter: the most that a level of opening steps down
FAR_LONGER = 2.5  # times the shorter way
THIN = 0.8  # × the ball's radius of stock that it takes without opening
IN_ROWS: Strategy = "in rows"
IN_LEVELS: Strategy = "in levels"


def surface_operations(place: Workplace, features: Sequence[FreeSurface | Fillet]) -> None:
    """All free surfaces and roundings that are reached this way, by one tool each to open and to finish them.

    The outline comes first: at a rounded edge the ball goes down beside the wall.
    """
    walls = [op.id for op in place.operations if op.chain == "outline"]
    over = Over(place.part.model.solid.mesh, place.frame)
    own = [f for f in features if surface_of(over, frozenset(f.faces))[0].area > 1e-3]
    if not own:
        return
    faces = frozenset(i for f in own for i in f.faces)
    ids = tuple(f.id for f in own)
    _, triangles = surface_of(over, faces)
    low = float(triangles[:, :, 2].min())
    depth = round(place.top - low, 4)
    id = place.id_of(own[0].id, OperationKind.FINISH_SURFACE)
    ball = place.tool(id, OperationKind.FINISH_SURFACE, _ball(place, own, depth, over, faces))
    if ball is None:
        place.lack(
            "no-ball-mill",
            f"No ball mill makes {', '.join(ids)}.",
            f"It has to reach {depth:.1f} in {place.material.name}.",
            features=ids,
            cures=(
                Cure(
                    "Leave to another shop", {"change": "leave-out", "features": list(ids), "reason": "made elsewhere"}
                ),
            ),
            wanted=f"ball mill that reaches {depth:.1f}",
        )
        return
    thinner = _thinner(place, ball, depth) if place.edit(id).tool is None else []
    ball, opened, finish = _made(place, id, over, faces, ids, low, [ball, *thinner])
    if opened is not None:
        place.require(finish, opened.id, "opened before it is finished")
    for wall in walls:
        place.require(finish, wall, "the ball comes down beside a finished wall")
    below = place.lowest - _lowest(over, faces, ball)
    if below > 1e-3:
        place.find(
            "ball-in-jaws", Severity.ERROR, f"{ball.description} would go {below:.1f} below the jaws’ tops.",
            "Beside a rounded edge the tip hangs lower than the edge. Grip less, or take a thinner one.",
            features=ids, operation=id,
        )  # fmt: skip
    tight = [f for f in own if isinstance(f, Fillet) and not f.convex and f.radius < ball.diameter / 2 - 1e-6]
    if tight:
        names = ", ".join(f"{f.id} R{f.radius:g}" for f in tight)
        place.find(
            "round-left", Severity.WARNING, f"{ball.description} leaves R{ball.diameter / 2:g} in {names}.",
            "A ball leaves its own radius in an inner round. Take a thinner one, or ask the customer.",
            features=tuple(f.id for f in tight), operation=id,
        )  # fmt: skip


def _made(
    place: Workplace, id: str, over: Over, faces: frozenset[int], ids: tuple[str, ...], low: float,
    balls: Sequence[Tool],
) -> tuple[Tool, Operation | None, Operation]:  # fmt: skip
    """By the first ball that comes to the surface without harm, else by the first of all, which is then left out."""
    operations, findings, withheld = list(place.operations), list(place.findings), set(place.withheld)
    for ball in [*balls, *balls[:1]] if len(balls) > 1 else balls:
        place.operations, place.findings, place.withheld = list(operations), list(findings), set(withheld)
        opened = _open(place, over, faces, ids, ball, low)
        finish = _finish(place, id, over, faces, ids, ball, low, opened)
        if id not in place.withheld:
            break
    return ball, opened, finish


def _thinner(place: Workplace, ball: Tool, depth: float) -> list[Tool]:
    """What could take the place of a ball that would cut what stands beside the surface, the thickest first."""
    able = choose.usable(place.library, place.material, [ToolKind.BALL_MILL])
    return sorted((t for t in able if t.diameter < ball.diameter and t.reach >= depth), key=lambda t: -t.diameter)


def _ball(
    place: Workplace, own: Sequence[FreeSurface | Fillet], depth: float, over: Over, faces: frozenset[int]
) -> Tool | None:  # fmt: skip
    """The thickest that gets into every inner round, reaches down, and beside a rounded edge stays off the jaws."""
    able = [t for t in choose.usable(place.library, place.material, [ToolKind.BALL_MILL]) if t.reach >= depth]
    rounds = [f.radius for f in own if isinstance(f, Fillet) and not f.convex]
    fitting = [t for t in able if t.diameter / 2 <= min(rounds, default=1e9) + 1e-6]
    free = [t for t in fitting if _lowest(over, faces, t) >= place.lowest]
    hand = place.hand
    return choose.best(free, lambda t: t.diameter, hand) or choose.best(fitting or able, lambda t: -t.diameter, hand)


def _lowest(over: Over, faces: frozenset[int], ball: Tool) -> float:
    return float(tips_over(over, faces, ball.diameter / 2)[1].min())


def _open(
    place: Workplace, over: Over, faces: frozenset[int], ids: tuple[str, ...], ball: Tool, low: float
) -> Operation | None:
    """In levels, where more stock stands over the surface than the ball takes."""
    if place.top - low <= THIN * ball.diameter / 2:
        return None
    id = place.id_of(ids[0], OperationKind.ROUGH_SURFACE)
    depth = round(place.top - low - LEAVE, 4)
    mills = [t for t in choose.usable(place.library, place.material, [ToolKind.END_MILL]) if t.reach >= depth]
    area = surface_of(over, faces)[0].area
    # thick enough to be quick, thin enough that its stairs and corners leave little
    wanted = min(20.0, max(ball.diameter, area**0.5 / 4))
    rule = choose.best(mills, lambda t: -abs(t.diameter - wanted), place.hand)
    tool = place.tool(id, OperationKind.ROUGH_SURFACE, rule)
    if tool is None:
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    stair = min(STAIR * tool.diameter, place.material.rough_ap * tool.diameter, tool.cutting_length)
    wish = Wish(depth, stair, place.material.rough_ae * tool.diameter, LEAVE)
    settled = settle(tool, data, place.material, place.machine, place.edit(id), wish)
    cut = settled.cutting
    motion = opening_path(
        over, faces, tool.diameter / 2, cut.allowance, min(cut.ae, tool.diameter / 2),
        Down(place.top, round(place.top - depth, 4), cut.passes, place.clearance, place.material.ramp_angle), cut.vf,
        place.stock_rectangle,
    )  # fmt: skip
    if motion is None:
        return None
    return place.add(
        Named(id, OperationKind.ROUGH_SURFACE, f"Open {_named(ids)} in levels", ids, ids[0], outer=True),
        tool,
        settled,
        motion,
        depth=depth,
    )


def _finish(
    place: Workplace, id: str, over: Over, faces: frozenset[int], ids: tuple[str, ...], ball: Tool, low: float,
    opened: Operation | None,
) -> Operation:  # fmt: skip
    data = place.library.data(ball, place.material)
    assert data is not None
    said = [f for id_ in ids if (f := place.plan.said_of(id_).finish) is not None]
    cusp = CUSP_OF_RA * min(said) / 1000 if said else CUSP
    radius = ball.diameter / 2
    step = step_for(radius, min(cusp, radius))
    left = LEAVE + (opened.cutting.ap if opened is not None else 0.0)
    wish = Wish(left, left, step, 0.0, thin_chips=False)
    settled = settle(ball, data, place.material, place.machine, replace(place.edit(id), passes=1), wish)
    cut = settled.cutting
    rows = row_share(surface_of(over, faces)[1])
    standing = left if opened is not None else place.top - low
    room = Room(place.top, standing, max(place.lowest, -1e6), place.clearance)
    wanted = place.edit(id).strategy
    lengths = ways_by_area(over, faces, radius, cut.ae * rows, cut.ae)
    # what is far longer is not even drawn
    able = [one for one, length in zip((IN_ROWS, IN_LEVELS), lengths, strict=True)
            if one == wanted or length <= FAR_LONGER * min(lengths)]  # fmt: skip
    found: dict[Strategy, Motion] = {}
    in_levels = levels_path(over, faces, radius, cut.ae, room, cut.vf) if IN_LEVELS in able else None
    if in_levels is not None:
        found[IN_LEVELS] = in_levels
    if IN_ROWS in able or not found:
        found[IN_ROWS] = rows_path(over, faces, radius, cut.ae * rows, room, cut.vf)
    return _quicker(place, id, ids, ball, settled, found, cusp, round(place.top - low, 4))


def _quicker(
    place: Workplace, id: str, ids: tuple[str, ...], ball: Tool, settled: Settled, found: dict[Strategy, Motion],
    cusp: float, depth: float,
) -> Operation:  # fmt: skip
    seconds = {strategy: place.seconds(motion) for strategy, motion in found.items()}
    wanted = place.edit(id).strategy
    chosen = wanted if wanted in found else min(seconds, key=lambda one: seconds[one])
    radius = ball.diameter / 2
    figures = (
        Figure("step", f"2·√(2·{radius:g}·h − h²) for cusps of h = {cusp:g}", settled.cutting.ae, "mm"),
        *(Figure(one if one == chosen else f"{one} instead", "the same surface, the same cusps", took, "s")
          for one, took in seconds.items() if len(seconds) > 1),
    )  # fmt: skip
    made = place.add(
        Named(id, OperationKind.FINISH_SURFACE, f"Finish {_named(ids)} {chosen}", ids, ids[0], outer=True),
        ball,
        settled,
        found[chosen],
        depth=depth,
        figures=figures,
    )
    return place.exchange(replace(made, strategy=chosen, strategies=tuple(seconds.items())))


def _named(ids: tuple[str, ...]) -> str:
    return ", ".join(ids) if len(ids) < 4 else f"{len(ids)} surfaces"
