"""The stock through the operations as the API shows it."""

from __future__ import annotations

from itertools import chain

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.followed.in_process import Remainder
from lean_ledger.core.geometry.model import Mesh
from lean_ledger.store import Opened
from lean_ledger.web.stock import schemas as s


def stock_view(opened: Opened) -> s.StockView:
    found = opened.followed
    material = opened.ledger.material
    if found is None or isinstance(found, LedgerError):
        words = found.message if found is not None else "the stock was not followed yet"
        return s.StockView(unknown=words, start=0, part=0, over_share=0, kg=0, steps=[], remainders=[])
    operations = {op.id: op for op in opened.ledger.operations}
    owner = {face: feature.id for feature in opened.part.features for face in feature.faces}
    return s.StockView(
        unknown="",
        start=found.start,
        part=found.target,
        over_share=found.over_share,
        kg=material.kg(found.start),
        steps=[
            s.StockStepView(
                operation=step.operation,
                name=operations[step.operation].name,
                setup=operations[step.operation].setup,
                volume=step.volume,
                kg=material.kg(step.volume),
                removed=step.removed,
                rate=step.rate,
                stated=operations[step.operation].rate,
            )
            for step in found.steps
        ],
        remainders=[_remainder(one, owner.get(one.face, "")) for one in found.remainders],
    )


def _remainder(one: Remainder, feature: str) -> s.RemainderView:
    return s.RemainderView(
        cut_into=one.cut_into,
        amount=one.amount,
        volume=one.volume,
        at=one.at,
        feature=feature,
        operation=one.operation,
        vertices=list(chain.from_iterable(one.vertices)),
        triangles=list(chain.from_iterable(one.triangles)),
        amounts=list(one.amounts),
    )


def solid_view(mesh: Mesh) -> s.StockSolidView:
    return s.StockSolidView(
        vertices=list(chain.from_iterable(mesh.vertices)), triangles=list(chain.from_iterable(mesh.triangles))
    )
