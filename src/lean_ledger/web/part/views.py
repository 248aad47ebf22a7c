"""Views of the part: its features, its revisions, bodies that are added, its mesh."""

from __future__ import annotations

from lean_ledger.core.features import Feature, Hole, Turned, flat_side, tool_ways
from lean_ledger.core.features.describe import FeatureGroup, measures, title
from lean_ledger.core.features.patterns import pattern_of
from lean_ledger.core.features.tolerance import asks_for
from lean_ledger.core.ledger.part_findings import in_the_way
from lean_ledger.core.part.bodies import placed_bodies, plugs
from lean_ledger.core.part.lineage import Revised
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, PlanningBody
from lean_ledger.core.revisions import Match
from lean_ledger.core.revisions.carried import decided_features
from lean_ledger.core.setups.assign import movable_to
from lean_ledger.core.setups.sides import needs_machining
from lean_ledger.library.types import Library
from lean_ledger.store.opened import Opened
from lean_ledger.web.part import schemas as ps
from lean_ledger.web.plans import schemas as s


def feature_views(opened: Opened, library: Library) -> list[ps.FeatureView]:
    ledger = opened.ledger
    out = {left.feature: left.reason for left in opened.plan.left_out}
    made: dict[str, list[str]] = {}
    for op in ledger.operations:
        for feature in op.features:
            made.setdefault(feature, []).append(op.id)
    became = {pair.new: pair.became.value for pair in opened.part.since}
    placed = {f.id: [setup for setup, ids in ledger.assigned.items() if f.id in ids] for f in opened.part.features}
    return [
        ps.FeatureView(
            id=f.id,
            kind=f.kind,
            title=title(f),
            faces=list(f.faces),
            access=list(tool_ways(f)),
            volume=f.volume,
            measures=[ps.MeasureView(label=m.label, value=m.value, unit=m.unit, source=m.source) for m in measures(f)],
            setups=placed[f.id],
            operations=made.get(f.id, []),
            left_out=out.get(f.id),
            said=_said(opened, f),
            threads=_threads_for(f, library),
            became=became.get(f.id, "same"),
            in_the_way=in_the_way(opened.part, f) if not tool_ways(f) else "",
            is_flat_side=flat_side(f) is not None,
            movable_to=list(movable_to(opened.part, opened.plan, f, placed[f.id])),
            needs_machining=needs_machining(opened.part, f, ledger.plan),
        )
        for f in opened.part.features
    ]


def _said(opened: Opened, feature: Feature) -> ps.SaidView:
    said = opened.plan.said_of(feature.id)
    return ps.SaidView(
        thread=said.thread,
        tolerance=said.tolerance,
        finish=said.finish,
        note=said.note,
        asks_for=asks_for(feature, said.tolerance),
    )


def body_views(opened: Opened) -> list[s.BodyView]:
    decided = {body.id: body for body in opened.plan.bodies}
    views = []
    for placed in (*placed_bodies(opened.part, opened.plan), *plugs(opened.part, opened.plan)):
        body = decided.get(placed.id) or PlanningBody(placed.id, "boss", placed.id, 0.0, 0.0, placed.height)
        mesh = placed.mesh
        views.append(
            s.BodyView(
                id=placed.id, kind=body.kind if placed.id in decided else "plug", on=body.on, words=placed.words,
                length=body.length, width=body.width, height=body.height, u=body.u, v=body.v, removal=body.removal,
                vertices=[c for p in mesh.vertices for c in p], triangles=[i for t in mesh.triangles for i in t],
            )
        )  # fmt: skip
    return views


def group_view(group: FeatureGroup) -> ps.FeatureGroupView:
    pattern = pattern_of(group.features)
    return ps.FeatureGroupView(
        title=group.title,
        ids=[f.id for f in group.features],
        pattern=ps.PatternView(
            shape=pattern.shape, words=pattern.words, center=pattern.center, diameter=pattern.diameter,
            rows=pattern.rows, columns=pattern.columns, pitch=pattern.pitch, row_pitch=pattern.row_pitch,
        ) if pattern else None,
    )  # fmt: skip


def compare_view(revised: Revised, plan: Plan) -> ps.CompareView:
    before, after, found = revised.before, revised.after, revised.found
    decided = decided_features(plan)
    faces = _face_words(found, before, after)
    return ps.CompareView(
        before=before.revision,
        after=after.revision,
        pairs=[
            ps.FeaturePairView(
                old=pair.old,
                new=revised.names[pair.new] if pair.new else None,
                own=pair.new,
                title=title(before.by_id[pair.old] if pair.old else after.by_id[revised.names[pair.new or ""]]),
                became=pair.became.value,
                moved=pair.moved,
                changes=[
                    ps.ChangedView(label=c.label, before=c.before, after=c.after, unit=c.unit) for c in pair.changes
                ],
                by_hand=pair.by_hand,
                decided=list(decided.get(pair.old or "", ())),
            )
            for pair in found.features
        ],
        before_faces=faces[0],
        after_faces=faces[1],
        before_features={f.id: list(f.faces) for f in before.features},
        after_features={f.id: list(f.faces) for f in after.features},
    )


def _face_words(found: Match, before: Part, after: Part) -> tuple[list[str], list[str]]:
    old, new = ["gone"] * len(before.model.solid.faces), ["new"] * len(after.model.solid.faces)
    for pair in found.faces:
        if pair.old is not None:
            old[pair.old] = pair.became.value
        if pair.new is not None:
            new[pair.new] = pair.became.value
    return old, new


def hole_views(opened: Opened, library: Library) -> list[ps.HoleSizeView]:
    sizes: dict[float, list[str]] = {}
    for f in opened.part.features:
        if isinstance(f, Hole):
            sizes.setdefault(f.diameter, []).append(f.id)
    return [
        ps.HoleSizeView(
            diameter=diameter,
            features=ids,
            thread=opened.plan.thread_of(diameter),
            options=[t.name for t in library.threads if t.fits(diameter)],
        )
        for diameter, ids in sorted(sizes.items())
    ]


def _threads_for(feature: Feature, library: Library) -> list[str]:
    if isinstance(feature, Hole):
        return [t.name for t in library.threads if t.fits(feature.diameter)]
    if isinstance(feature, Turned) and feature.where == "outside":
        return [t.name for t in library.threads if t.fits_outside(feature.diameter)]
    return []


def mesh_view(part: Part) -> ps.MeshView:
    mesh, bounds = part.model.solid.mesh, part.model.solid.bounds
    sharp = [e for e in part.model.solid.edges if e.bend in ("convex", "concave")]
    return ps.MeshView(
        vertices=[c for v in mesh.vertices for c in v],
        triangles=[i for t in mesh.triangles for i in t],
        faces=list(mesh.faces),
        edges=[[round(c, 3) for p in e.points for c in p] for e in sharp],
        min=bounds.min,
        max=bounds.max,
    )
