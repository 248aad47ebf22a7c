"""A setup's zero as the API shows it: where it is, where it could be, and where everything lies from it."""

from __future__ import annotations

from collections.abc import Sequence

from lean_ledger.core.features.describe import title
from lean_ledger.core.ledger.offsets import WorkOffset, touched_off
from lean_ledger.core.setups.zero import (
    choices,
    coordinates,
    least_of_stock,
    proposed_zero,
    zero_point,
)
from lean_ledger.store import Opened
from lean_ledger.web.setups import schemas as su


def zero_view(opened: Opened, index: int, offsets: Sequence[WorkOffset]) -> su.ZeroView:
    """`offsets`: those of the setup's pieces."""
    setup = opened.ledger.setups[index]
    zero, place = opened.ledger.zero_of(opened.part, index), opened.ledger.zero_place(opened.part, index)
    point = zero_point(zero, place)
    wanted, why = proposed_zero(index, place)
    drawn, home = setup.built.hold.frame, setup.built.home.frame
    features = [opened.part.by_id[id] for id in opened.ledger.assigned[setup.decision.id]]
    return su.ZeroView(
        of=zero.of,
        place=zero.place,
        level=zero.level,
        bore=zero.bore,
        words=zero.words,
        point=point,
        touch_off=list(touched_off(setup, zero, place, offsets)),
        by_rule=setup.decision.zero is None,
        proposed=wanted.words,
        why=why,
        choices=[
            su.ZeroChoice(
                of=c.zero.of,
                place=c.zero.place,
                bore=c.zero.bore,
                words=c.zero.words,
                **dict(zip("xy", drawn.point(home.in_part((c.x, c.y, point[2])))[:2], strict=True)),
            )
            for c in choices(place)
        ],
        least=least_of_stock(zero, place),
        coordinates=[
            su.CoordinatesView(
                feature=c.feature, title=title(opened.part.by_id[c.feature]), x=c.x, y=c.y, top=c.top, bottom=c.bottom
            )
            for c in coordinates(opened.part, setup.built.home.frame, features, point)
        ],
    )
