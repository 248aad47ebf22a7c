"""Which work offset each piece of a plan's loads has, and where the control's zero then stands on the machine."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.control.offset_words import offset_words
from lean_ledger.core.geometry.vectors import Vec, add, sub
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.joined import step_along
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.turned import turned_way
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import FIRST, Load, Zero
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.setups.zero import Surroundings, touch_off, touch_off_bar, zero_point
from lean_ledger.library.machines import Machine

SAME = 1e-4  # mm within which two zeros are one
NOWHERE: Vec = (0.0, 0.0, 0.0)
MOST_NAMED = 4  # words that are listed one by one


@dataclass(frozen=True)
class WorkOffset:
    """`zero` is the program's zero in the way's axes, `machine` the same point in the machine's coordinates, as it is
    for a piece; `local` is how far that is from the word's own zero, where pieces share one; `angle` the rotary's.

    X of a lathe counts as a radius here.
    """

    word: str
    setup: str
    way: Way
    zero: Vec
    machine: Vec
    place: str = FIRST
    local: Vec = NOWHERE
    angle: float = 0.0

    @property
    def at(self) -> Vec:
        """What the control is told for the word, in machine coordinates."""
        return sub(self.machine, self.local)


def offsets_of(ledger: Ledger, part: Part) -> tuple[WorkOffset, ...]:
    """One for each way of each piece of each load; ways that share a zero share the word, pieces as the load says.
    Setups in their order.

    `word` is empty where the control has no more of them.
    """
    words = _Words([load.load for load in ledger.loads])
    zeros = {}
    for index, setup in enumerate(ledger.setups):
        home = setup.built.home.frame
        zeros[setup.decision.id] = home.in_part(zero_point(ledger.zero_of(part, index), ledger.zero_place(part, index)))
    return tuple(offset for load in ledger.loads for offset in _of_load(load, zeros, words))


def _of_load(load: LoadLedger, zeros: Mapping[str, Vec], words: _Words) -> list[WorkOffset]:
    """In the walk of its pieces; `zeros` of its setups, in the part's coordinates."""
    policy = load.load.offsets
    named, own = dict(policy.named), list[WorkOffset]()
    keys = {placed.place.id: placed.shares(policy.policy) for placed in load.placed}
    ways = {share.decision.id: _ways(share) for share in load.shares}
    words.start(policy.first)
    for placed in load.placed:
        for way in ways[placed.decision.id]:
            there = turned_way(way, placed.turn)
            zero = there.frame.point(zeros[placed.decision.id])
            shift = placed.stands.shift(there.frame)
            machine = placed.stands.on_lathe(there.frame, zero) if load.machine.turns_work else add(zero, shift)
            id, angle = placed.place.id, way.angle + placed.stands.angle
            same = [o for o in own if o.place == id and _near(o.machine, machine)]
            alike = (o for o in own if o.way.direction == way.direction and o.place not in named)
            shared = [o for o in alike if keys[o.place] == keys[id]]
            like = next(iter((*same, *shared)), None)
            if id in named:
                word, local = named[id], NOWHERE
            elif like is not None:
                word, local = like.word, sub(machine, like.at)
            else:
                word, local = words.next(load.machine), NOWHERE
            local = local if max(map(abs, local)) > SAME else NOWHERE
            own.append(WorkOffset(word, placed.decision.id, there, zero, machine, id, local, angle))
    return own


def _ways(load: LoadLedger) -> list[Way]:
    """The ways in the order in which they are come to; the home one where nothing is made."""
    return list(dict.fromkeys(e.operation.way for e in load.rows)) or [load.built.home]


class _Words:
    """Hands out words: none twice in a plan as long as they last, since the same word on another control would be read
    as the same zero; never twice on one machine.
    """

    def __init__(self, loads: Sequence[Load]) -> None:
        self._not = {word for load in loads for word in load.offsets.reserved}
        self._not |= {word for load in loads for _, word in load.offsets.named}
        self._first: str | None = None
        self._taken: dict[str, set[str]] = {}  # by machine

    def start(self, first: str | None) -> None:
        self._first = first

    def next(self, machine: Machine) -> str:
        """From the first one on; "" where no more are left."""
        words = list(offset_words(machine.offsets))
        begin = words.index(self._first) if self._first in words else 0
        mine = self._taken.setdefault(machine.id, set())
        elsewhere = set().union(*self._taken.values())
        left = [word for word in words[begin:] if word not in self._not | mine]
        word = next((w for w in left if w not in elsewhere), next(iter(left), ""))
        mine.add(word)
        return word


def words_of_setups(offsets: Sequence[WorkOffset]) -> dict[str, str]:
    """What the sheet calls each setup's zero; those in a row of many as from … to."""
    found: dict[str, list[WorkOffset]] = {}
    for offset in offsets:
        found.setdefault(offset.setup, []).append(offset)
    return {setup: _named(own) for setup, own in found.items()}


def _named(offsets: Sequence[WorkOffset]) -> str:
    words = list(dict.fromkeys(offset.word or "no offset left" for offset in offsets))
    return ", ".join(words) if len(words) <= MOST_NAMED else f"{words[0]} … {words[-1]}"


def touched_off(share: LoadLedger, zero: Zero, place: Surroundings, offsets: Sequence[WorkOffset]) -> tuple[str, ...]:
    """How the setter finds a setup's zeros at its pieces, of which `offsets` are: those turned one way together."""
    rests_on, by_turn = share.built.hold.rests_on, dict[int, list[WorkOffset]]()
    behind = [
        offset for offset in offsets if share.placed_at(offset.place).bar and share.placed_at(offset.place).station
    ]
    for offset in offsets:
        if offset.local == NOWHERE and offset not in behind:
            by_turn.setdefault(share.placed_at(offset.place).turn, []).append(offset)
    if behind:
        first = [offset for offset in offsets if offset not in behind]
        on = (f"{_named(behind)}: {_farther(share)}",)
        apart = [offset for offset in behind if offset.local == NOWHERE]
        _, height = touch_off(zero, place, _named(first), rests_on)
        plate = share.built.blank is not None and share.built.blank.plate
        return (touch_off_bar(zero, place, _named(first), plate=plate), height, *(on if apart else ()))
    said = touch_off(zero, place, _named(offsets), rests_on)
    if set(by_turn) <= {0}:
        return said
    turned = [
        touch_off(zero, place, f"{_named(own)}{f' (turned {turn}°)' if turn else ''}", rests_on, turn)[0]
        for turn, own in sorted(by_turn.items())
    ]
    return (*turned, *said[1:])


def _farther(share: LoadLedger) -> str:
    """Where the next pieces of a bar or plate are."""
    blank = share.built.blank
    word, x = blank.word if blank is not None else "bar", step_along(share.built)
    along = f"in the same {word}, {x:.3f} farther along X from piece to piece"
    if blank is None or not blank.plate:
        return along
    return f"{along}, {step_along(share.built, 1):.3f} along Y from row to row"


def offset_findings(ledger: Ledger, part: Part) -> Iterator[Finding]:
    """Too few words of a control, and one word for several zeros that nobody wanted to be one."""
    every = offsets_of(ledger, part)
    for load in ledger.setups:
        own = [o for o in every if o.setup == load.decision.id]
        yield from _overflow(load, own)
        yield from _doubled(load, own, every)


def _overflow(load: LoadLedger, own: Sequence[WorkOffset]) -> Iterator[Finding]:
    lacking = list(dict.fromkeys(o.place for o in own if not o.word))
    if not lacking:
        return
    now = load.load.offsets.policy
    shared = {"piece": ("group", "load"), "group": ("load",), "load": ()}[now] if load.pieces > 1 else ()
    labels = {"group": "One for each group", "load": "One for the load"}
    cures = [_choose(load, labels[policy], policy=policy) for policy in shared]
    cures += [_choose(load, "None reserved", reserved=[])] if load.load.offsets.reserved else []
    cures += [_choose(load, "Start at the first", first="")] if load.load.offsets.first else []
    which = f"piece {lacking[0]}" if load.pieces > 1 else f"setup {load.decision.id}"
    more = f" and {len(lacking) - 1} more" if len(lacking) > 1 else ""
    yield Finding(
        "too-few-offsets", Severity.ERROR, Chapter.LAYOUT,
        f"{load.machine.name} has no work offset left for {which}{more}.",
        "Let pieces share one, reserve fewer, or take a machine with more of them.", load.decision.id,
        cures=tuple(cures),
    )  # fmt: skip


def _doubled(load: LoadLedger, own: Sequence[WorkOffset], every: Sequence[WorkOffset]) -> Iterator[Finding]:
    """A word that was named by hand and stands for another zero, or angle, as well."""
    for place, word in load.load.offsets.named:
        mine = [o for o in own if o.place == place and o.word == word]
        other = next((o for o in every for m in mine if o.word == word and (o.setup, o.place) != (m.setup, place)
                      and not (_near(o.at, m.at) and o.angle == m.angle)), None)  # fmt: skip
        if other is not None:
            there = f"piece {other.place} of setup {other.setup}"
            yield Finding(
                "offset-doubled", Severity.ERROR, Chapter.LAYOUT,
                f"{word} is the zero of piece {place} and of {there}, which lies elsewhere.",
                "The control has one place for a word: the tool would go to the wrong piece.", load.decision.id,
                cures=(_choose(load, f"Number piece {place} by the rule", named=[[place, ""]]),),
            )  # fmt: skip


def _choose(load: LoadLedger, label: str, **values: object) -> Cure:
    return Cure(label, {"change": "set-offsets", "load": load.load.id, **values})


def _near(a: Vec, b: Vec) -> bool:
    return all(abs(p - q) < SAME for p, q in zip(a, b, strict=True))
