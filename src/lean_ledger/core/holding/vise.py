"""A block in a vise. Coordinates are the setup's (see setups.frame): jaws along x, closing along y."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.errors import PlanError
from lean_ledger.core.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame, default_turn, frame_of
from lean_ledger.core.stock import StockState
from lean_ledger.library.types import Library, Machine, Vise

JAW_CLEARANCE = 1.0  # mm between the jaws' tops and the lowest cut beside them
USUAL_GRIP = 8.0
TALL_GRIP = 0.12  # of the height, where that is more
OPENING_ROOM = 1.0  # mm to put the stock in
LEAST_JAW_SHARE = 0.4  # of the stock's length that lies between the jaws


@dataclass(frozen=True)
class Hold:
    """A setup's clamping, resolved: every choice made, by hand or by the rule."""

    frame: Frame
    turn: int
    vise: Vise
    grip: float
    parallel: float | None  # None where the shop has none of that height
    boxes: tuple[Bounds, ...]  # the stock as this setup finds it, in setup coordinates
    opening: float  # the jaws' distance

    @property
    def stock(self) -> Bounds:
        low = tuple(min(b.min[i] for b in self.boxes) for i in range(3))
        high = tuple(max(b.max[i] for b in self.boxes) for i in range(3))
        return Bounds(low, high)  # type: ignore[arg-type]

    @property
    def jaw_top(self) -> float:
        return self.stock.min[2] + self.grip

    @property
    def lowest_outside_cut(self) -> float:
        """No cut outside the part's own outline may go below this."""
        return self.jaw_top + JAW_CLEARANCE

    @property
    def gripped_y(self) -> tuple[float, float]:
        """Where the jaws touch."""
        held = [b for b in self.boxes if b.min[2] < self.jaw_top - 1e-6]
        return min(b.min[1] for b in held), max(b.max[1] for b in held)


def resolve_hold(setup: SetupDecision, state: StockState, library: Library, lowest_needed: float | None = None) -> Hold:
    """Choose what the decision leaves to the rule.

    `lowest_needed` is the level, in setup coordinates, down to which this setup would cut on the outside; the grip
    stays below it where a parallel allows. Raises PlanError for a vise that is not in the library.
    """
    turn = setup.turn if setup.turn is not None else default_turn(setup.up, state.bounds)
    frame = frame_of(setup.up, turn)
    boxes = tuple(frame.box(box) for box in state.boxes())
    bottom = min(b.min[2] for b in boxes)
    lowest_box = min(boxes, key=lambda b: b.min[2])
    size_y = lowest_box.size[1]
    vise = _vise(setup, library, size_y, lowest_box.size[0])
    grip = setup.grip
    if grip is None:
        grip = _usual_grip(vise, boxes, bottom, lowest_needed)
    wanted = vise.jaw_height - grip
    parallel = next((p for p in vise.parallels if abs(p - wanted) < 0.05), None)
    hold = Hold(frame, turn, vise, grip, parallel, boxes, 0.0)
    low, high = hold.gripped_y
    return Hold(frame, turn, vise, grip, parallel, boxes, round(high - low, 4))


def _vise(setup: SetupDecision, library: Library, width: float, length: float) -> Vise:
    if setup.vise is not None:
        chosen = library.vise(setup.vise)
        if chosen is None:
            names = ", ".join(v.id for v in library.vises)
            raise PlanError("no-such-vise", f"there is no vise {setup.vise}; the library has {names}", setup.id)
        return chosen
    fitting = [
        v for v in library.vises if v.opening >= width + OPENING_ROOM and v.jaw_width >= LEAST_JAW_SHARE * length
    ]
    by_size = sorted(fitting or library.vises, key=lambda v: (v.opening, v.jaw_width))
    return by_size[0] if fitting else by_size[-1]


def _usual_grip(vise: Vise, boxes: tuple[Bounds, ...], bottom: float, lowest_needed: float | None) -> float:
    """The deepest grip up to the usual one that stays clear of the cuts and within a third of the height."""
    top = max(b.max[2] for b in boxes)
    usual = max(USUAL_GRIP, TALL_GRIP * (top - bottom))
    most = min(usual, max(vise.least_grip, (top - bottom) * 0.34))
    if lowest_needed is not None:
        most = min(most, lowest_needed - JAW_CLEARANCE - bottom)
    first = min(boxes, key=lambda b: b.min[2])
    if len(boxes) > 1:
        most = min(most, first.max[2] - bottom)
    possible = [g for g in vise.grips() if vise.least_grip - 1e-6 <= g <= most + 1e-6]
    return possible[-1] if possible else vise.least_grip


def check_hold(setup: SetupDecision, hold: Hold, machine: Machine) -> list[Finding]:
    """Opening, grip depth, parallels, and what lies between the jaws."""
    found: list[Finding] = []

    def add(code: str, severity: Severity, title: str, why: str, cures: tuple[Cure, ...] = ()) -> None:
        found.append(Finding(code, severity, Chapter.SETUPS, title, why, setup=setup.id, cures=cures))

    vise, stock = hold.vise, hold.stock
    by_rule = Cure("Let the rule choose vise and turn", {"change": "set-vise", "setup": setup.id, "vise": None})
    if hold.opening > vise.opening:
        add(
            "vise-opening", Severity.ERROR,
            f"The stock is {hold.opening:.1f} wide, {vise.name} opens {vise.opening:g}.",
            "The jaws do not go round it. Take a larger vise or turn the part by 90°.",
            (by_rule, Cure("Turn by 90°", {"change": "set-turn", "setup": setup.id, "turn": (hold.turn + 90) % 360})),
        )  # fmt: skip
    least = vise.least_grip
    if hold.grip < least - 1e-6:
        add(
            "grip-shallow", Severity.ERROR,
            f"The jaws grip {hold.grip:.1f}, {vise.name} needs {least:g}.",
            "The part would lift out under the cutting force.",
            (Cure(f"Grip {least:g}", {"change": "set-grip", "setup": setup.id, "grip": least}),),
        )  # fmt: skip
    height = stock.size[2]
    if hold.grip > vise.jaw_height:
        add(
            "grip-deep", Severity.ERROR,
            f"A grip of {hold.grip:.1f} is more than the jaws' height of {vise.jaw_height:g}.",
            "The part would stand on the vise's bed with no parallel under it.",
            (Cure("Grip by the rule", {"change": "set-grip", "setup": setup.id, "grip": None}),),
        )  # fmt: skip
    elif height > 0 and hold.grip < 0.1 * height:
        add(
            "grip-low-share", Severity.WARNING,
            f"Only {hold.grip:.1f} of {height:.1f} height is gripped.",
            "A tall part on a low grip chatters and can tip; grip at least a tenth of its height.",
        )  # fmt: skip
    if hold.parallel is None and hold.grip <= vise.jaw_height:
        nearest = min(vise.grips(), key=lambda g: abs(g - hold.grip))
        add(
            "no-parallel", Severity.WARNING,
            f"There is no parallel of {vise.jaw_height - hold.grip:.1f} for a grip of {hold.grip:.1f}.",
            f"With the shop's parallels the nearest grip is {nearest:.1f}.",
            (Cure(f"Grip {nearest:.1f}", {"change": "set-grip", "setup": setup.id, "grip": nearest}),),
        )  # fmt: skip
    if len({(round(b.min[1], 3), round(b.max[1], 3)) for b in hold.boxes if b.min[2] < hold.jaw_top - 1e-6}) > 1:
        add(
            "grip-over-edge", Severity.ERROR,
            "The jaws reach over the edge between finished wall and rough stock.",
            "They would close on the wider of the two only. Grip less, or cut the outline deeper in the setup before.",
            (Cure("Grip by the rule", {"change": "set-grip", "setup": setup.id, "grip": None}),),
        )  # fmt: skip
    reach = tuple(high - low for low, high in machine.travel)
    if stock.size[0] > reach[0] or stock.size[1] > reach[1]:
        add(
            "past-travel", Severity.ERROR,
            f"The stock is {stock.size[0]:.0f} × {stock.size[1]:.0f}, {machine.name} travels "
            f"{reach[0]:.0f} × {reach[1]:.0f}.",
            "The tool centre would have to leave the travel. Take a larger machine.",
        )  # fmt: skip
    return found
