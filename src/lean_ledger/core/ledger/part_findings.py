"""Findings about the part itself: a newer revision, decisions that a revision left behind, what no tool reaches."""

from __future__ import annotations

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.features import Feature, Hole
from lean_ledger.core.features.describe import title
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, ThreadChoice
from lean_ledger.core.revisions import Became, FeaturePair
from lean_ledger.core.revisions.carried import decided_features
from lean_ledger.library.types import Library, Thread

SAME_DRILL = 0.06  # mm between a hole and the tap drill of a thread that it was drilled for
MOST_NAMED = 4  # features named in a sentence


def part_findings(plan: Plan, part: Part, library: Library) -> list[Finding]:
    """What is wrong with the model, what belongs to another revision, what was decided for features that changed."""
    found: list[Finding] = []
    if part.model.doubts:
        found.append(
            Finding(
                "geometry-unsound", Severity.WARNING, Chapter.PART,
                "The model's geometry is not sound; measures taken from it may be wrong.",
                f"In {part.model.file} {'; '.join(part.model.doubts)}. Ask for a new export, or check the features.",
            )
        )  # fmt: skip
    if part.model.left_out:
        found.append(
            Finding(
                "drawing-left-out", Severity.WARNING, Chapter.PART,
                f"{len(part.model.left_out)} things of the drawing are not in the part.",
                f"{'; '.join(part.model.left_out[:MOST_NAMED])}. Draw what belongs to it as closed outlines; "
                "what does not can stay.",
            )
        )  # fmt: skip
    found += _body_findings(plan, part)
    if part.newest != plan.revision:
        found.append(
            Finding(
                "revision-waits", Severity.ERROR, Chapter.PART,
                f"Revision {part.newest} is here; this plan makes {plan.revision}.",
                "Compare both, then take it: decisions stay on what is matched.",
                cures=(Cure(f"Take revision {part.newest}", {"change": "take-revision", "revision": part.newest}),),
            )
        )  # fmt: skip
    decided = decided_features(plan)
    gone = {id: words for id, words in decided.items() if id not in part.by_id}
    if gone:
        found.append(
            Finding(
                "decided-for-gone", Severity.WARNING, Chapter.PART,
                f"{sum(map(len, gone.values()))} decisions are about features that revision {part.revision} "
                f"does not have ({', '.join(list(gone)[:MOST_NAMED])}).",
                "; ".join(f"{id}: {', '.join(words)}" for id, words in gone.items()) + ".",
                cures=(Cure("Drop them", {"change": "drop-decisions", "features": list(gone)}),),
            )
        )  # fmt: skip
    confirmed = {c.feature for c in plan.confirmed if c.revision == part.revision}
    for pair in part.since:
        if pair.became not in (Became.MOVED, Became.RESIZED) or pair.new is None or pair.new in confirmed:
            continue
        words = decided.get(pair.new)
        if words:
            found.append(_touched(part, pair, words))
    found += [_homeless(part, choice, library) for choice in plan.threads if not _holes_of(part, choice.diameter)]
    return found


def _body_findings(plan: Plan, part: Part) -> list[Finding]:
    """Bodies that nothing takes off again, bodies without their side, and holes that are filled for now."""
    found: list[Finding] = []
    for body in plan.bodies:
        drop = Cure("Take it out", {"change": "drop-body", "body": body.id})
        if body.on not in part.by_id:
            found.append(
                Finding(
                    "body-without-side", Severity.ERROR, Chapter.PART,
                    f"The {body.kind} {body.id} stood on {body.on}, which revision {part.revision} does not have.",
                    "It is not in the stock any more. Put it on another side, or take it out.", cures=(drop,),
                )
            )  # fmt: skip
        elif not body.removal:
            found.append(
                Finding(
                    "body-stays-on", Severity.WARNING, Chapter.PART,
                    f"The {body.kind} {body.id} stays on the part at the end.",
                    "No setup takes it off. Say who does.", features=(body.on,),
                    cures=(Cure("Off by hand", {"change": "remove-body", "body": body.id, "removal": "by hand"}),
                           Cure("Off elsewhere", {"change": "remove-body", "body": body.id, "removal": "elsewhere"}),
                           drop),
                )
            )  # fmt: skip
    filled = [left.feature for left in plan.left_out if left.reason == "filled for now"]
    if filled:
        found.append(
            Finding(
                "filled-for-now", Severity.WARNING, Chapter.PART,
                f"{', '.join(filled[:MOST_NAMED])} {'is' if len(filled) == 1 else 'are'} filled for now; nothing makes "
                f"{'it' if len(filled) == 1 else 'them'}.",
                "Make them in a setup before the plan is released, or say who does.", features=tuple(filled),
                cures=(Cure("Make them here", {"change": "take-in", "features": filled}),),
            )
        )  # fmt: skip
    return found


def _touched(part: Part, pair: FeaturePair, words: tuple[str, ...]) -> Finding:
    assert pair.new is not None
    return Finding(
        "decided-before", Severity.WARNING, Chapter.PART,
        f"{pair.new}, {title(part.by_id[pair.new])}, was {became_words(pair)} by revision {part.revision}.",
        f"Decided before: {', '.join(words)}. Look whether it still holds.", features=(pair.new,),
        cures=(Cure("It holds", {"change": "confirm-features", "features": [pair.new]}),
               Cure("Drop it", {"change": "drop-decisions", "features": [pair.new]})),
    )  # fmt: skip


def became_words(pair: FeaturePair) -> str:
    """'resized (Ø 6 → 6.6)', 'moved by 2 mm'."""
    if pair.became == Became.MOVED:
        return f"moved by {pair.moved:.2f} mm"
    if pair.changes:
        return "resized (" + ", ".join(f"{c.label} {c.before:.5g} → {c.after:.5g}" for c in pair.changes) + ")"
    return pair.became.value


def _holes_of(part: Part, diameter: float) -> list[str]:
    return [f.id for f in part.features if isinstance(f, Hole) and abs(f.diameter - diameter) < 1e-3]


def _homeless(part: Part, choice: ThreadChoice, library: Library) -> Finding:
    """A thread named for a size that no hole has: holes that were meant may be drilled and not tapped."""
    was = [
        pair
        for pair in part.since
        for c in pair.changes
        if pair.new in part.by_id and c.label == "Ø" and abs(c.before - choice.diameter) < 1e-3
    ]
    thread = library.thread(choice.thread)
    sizes = sorted({f.diameter for pair in was if isinstance(f := part.by_id[pair.new or ""], Hole)})
    cures = [
        Cure(
            f"{name} in Ø{size:g}",
            {"change": "set-thread", "diameter": size, "thread": name, "instead_of": choice.diameter},
        )
        for size in sizes
        for name in _threads_for(size, thread, library)
    ]
    cures.append(Cure("Forget it", {"change": "forget-thread", "diameter": choice.diameter}))
    names = ", ".join(pair.new or "" for pair in was)
    return Finding(
        "thread-homeless", Severity.WARNING, Chapter.PART,
        f"{choice.thread} was named for Ø{choice.diameter:g}, and no hole has that size any more.",
        (f"{names} had it: now Ø{', Ø'.join(f'{size:g}' for size in sizes)}. " if was else "")
        + "Name a thread for the new size, or forget this one.",
        features=tuple(pair.new for pair in was if pair.new), cures=tuple(cures),
    )  # fmt: skip


def _threads_for(size: float, before: Thread | None, library: Library) -> list[str]:
    """The thread as it was where it still fits, else those of its series that a hole of this size is drilled for."""
    if before is None or before.fits(size):
        return [before.name] if before else []
    return [t.name for t in library.threads if t.series == before.series and abs(t.tap_drill - size) < SAME_DRILL]


def in_the_way(part: Part, feature: Feature) -> str:
    """Which features stand between a feature without access and the tool, in words; empty where none is known."""
    owners = [f for f in part.features if f.id != feature.id and set(f.faces) & set(feature.blocked_by)]
    if not owners:
        return ""
    named = ", ".join(f"{f.id}, {title(f)}" for f in owners[:MOST_NAMED])
    more = f" and {len(owners) - MOST_NAMED} more" if len(owners) > MOST_NAMED else ""
    return f"In the way: {named}{more}."
