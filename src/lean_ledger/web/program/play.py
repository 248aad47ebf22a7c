"""A plan's cycles to be looked at again in 3D: what runs when, where the tool is, what holds the stock."""

from __future__ import annotations

from dataclasses import replace
from itertools import chain
from typing import Any

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from lean_ledger.core.followed.course import around_of
from lean_ledger.core.followed.cuts import Around
from lean_ledger.core.followed.play import played, shows_all, tool_shape, way_of
from lean_ledger.core.geometry.host import Cancelled
from lean_ledger.core.geometry.progress import Report
from lean_ledger.core.geometry.vectors import neg
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.poses import Pose, apart, axis_of, front_of, pose_alone, poses, seen
from lean_ledger.store import Desk
from lean_ledger.web.pace.schemas import OperationPath
from lean_ledger.web.plans.schemas import PlanPath, Problem
from lean_ledger.web.shared.described import Described
from lean_ledger.web.shared.requests import desk
from lean_ledger.web.shared.wire import Vec
from lean_ledger.web.shared.works import BESIDE, beside
from lean_ledger.web.stock.schemas import StockSolidView
from lean_ledger.web.stock.views import solid_view

blueprint = Described("play", __name__, url_prefix="/api/plans", abp_tags=[Tag(name="play")])

READS: dict[Any, Any] = {404: Problem, 422: Problem}


class PlayedView(BaseModel):
    operation: str
    setup: str
    name: str
    tool: str
    start: float
    lead: float
    seconds: float
    finding: str
    place: str = Field(description="the piece of a load of several that is shown; else empty")
    before: int = Field(description="operations of the plan that the piece has been through")
    after: int


class PoseView(BaseModel):
    """A piece's own coordinates to the machine's while its rotary stands at 0: `matrix` is 3 × 4, row by row."""

    place: str
    setup: str
    matrix: list[float]
    brought: list[float] = Field(description="the machine's coordinates to where all stands once the piece is up")
    holds: bool = Field(description="what holds it stands with it; false for those behind the first of a bar")


class PlayedLoadView(BaseModel):
    """A load of several pieces that is shown whole; `shared` is what carries them, in the coordinates of `alone`."""

    setups: list[str]
    poses: list[PoseView]
    shared: StockSolidView | None
    alone: PoseView
    min: Vec
    max: Vec
    right: Vec
    above: Vec
    axis: tuple[Vec, Vec] | None = Field(description="a point of the table's axis and its direction")


class PlayedSetupView(BaseModel):
    """What holds the stock, and the machine's axes, in the part's coordinates."""

    setup: str
    fixture: StockSolidView
    right: Vec
    above: Vec


class PlayView(BaseModel):
    total: float
    entries: list[PlayedView]
    setups: list[PlayedSetupView]
    loads: list[PlayedLoadView]


class ToolWayView(BaseModel):
    """`points` are three numbers each. `outlines` are (across, along) from the tip, of a body that turns about `up`, or
    where `turned`, of a flat tool that lies along `right` and `up`.
    """

    times: list[float]
    points: list[float]
    rapid: list[bool]
    up: Vec
    right: Vec
    outlines: list[list[tuple[float, float]]]
    turned: bool


@blueprint.get("/<int:plan_id>/play", responses={200: PlayView, **BESIDE})
def play(path: PlanPath) -> Response:
    """All operations in the order in which they run, with what holds each setup's stock."""
    asked = desk()

    def make(_report: Report, _cancelled: Cancelled) -> bytes:
        return _played(asked, path.plan_id)

    return beside(("play", path.plan_id, asked.state(path.plan_id)), "Building what holds the stock", "looking", make)


def _played(asked: Desk, plan_id: int) -> bytes:
    opened = asked.open(plan_id)
    ledger = opened.ledger
    run, total = played(ledger)
    entries = [PlayedView(**vars(one)) for one in run]
    whole = [load for load in ledger.loads if shows_all(load)]
    together = {id for load in whole for id in load.load.setups}

    def held(s: LoadLedger) -> Around:
        around = around_of(s)
        if s.decision.id not in together:
            return around
        return replace(around, pieces=apart(s.placed[0], s.where.load.arrangement)[0])

    def front(s: LoadLedger) -> tuple[Vec, Vec]:
        right, above = front_of(s.machine)
        home = s.built.home.frame
        return home.in_part(right), home.in_part(above)

    setups = [
        PlayedSetupView(setup=s.decision.id, fixture=solid_view(asked.stocks.around(held(s))),
                        right=front(s)[0], above=front(s)[1])
        for s in ledger.setups
    ]  # fmt: skip
    loads = [_load_view(asked, load) for load in whole]
    return PlayView(total=total, entries=entries, setups=setups, loads=loads).model_dump_json().encode()


def _load_view(asked: Desk, load: LoadLedger) -> PlayedLoadView:
    first = load.where.placed[0]
    carried, bounds = apart(first)[1], seen(load)
    around = replace(around_of(load.shares[0]), pieces=carried)
    return PlayedLoadView(
        setups=list(load.load.setups),
        poses=[_pose_view(pose) for pose in poses(load)],
        shared=solid_view(asked.stocks.around(around)) if carried else None,
        alone=_pose_view(pose_alone(load, first.decision.id)),
        min=bounds.min,
        max=bounds.max,
        right=front_of(load.machine)[0],
        above=front_of(load.machine)[1],
        axis=axis_of(load),
    )


def _pose_view(pose: Pose) -> PoseView:
    matrix, brought = ([v for row in rows for v in row] for rows in (pose.rows, pose.brought))
    return PoseView(place=pose.place, setup=pose.setup, matrix=matrix, brought=brought, holds=pose.holds)


@blueprint.get("/<int:plan_id>/play/<operation>", responses={200: ToolWayView, **READS})
def tool_way(path: OperationPath) -> Response:
    """Where the tool of an operation is at every moment, and its shape."""
    ledger = desk().open(path.plan_id, with_stock=False).ledger
    way = way_of(ledger, path.operation)
    op = next(op for op in ledger.operations if op.id == path.operation)
    body = ToolWayView(
        times=[round(t, 4) for t in way.times],
        points=[round(c, 3) for c in chain.from_iterable(way.points)],
        rapid=list(way.rapid),
        up=op.frame.up,
        right=neg(op.frame.right) if way.from_front else op.frame.right,
        outlines=[list(outline) for outline in tool_shape(op)],
        turned=op.motion.turns,
    )
    return Response(body.model_dump_json(), mimetype="application/json")
