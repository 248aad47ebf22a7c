"""What is said to spindles that move: a counter spindle that takes a piece over, a drum that goes on."""

from __future__ import annotations

from lean_ledger.core.control.setting import MARKS
from lean_ledger.core.loads.handover import NEAR, SLOW, Handover
from lean_ledger.core.program.text import Lines
from lean_ledger.library.dialects import Dialect


def take_over(main: Lines, dialect: Dialect, one: Handover) -> None:
    """The counter spindle turns as fast, comes over the piece, the last of it slowly, and closes."""
    main.say(dialect.synchronise, main.comment("the counter spindle takes the piece over"))
    main.say("G94")
    main.say(f"G0 W{main.number(one.at + NEAR)}")
    main.say(f"G1 W{main.number(one.at)} F{main.number(SLOW)}")
    main.ended()
    main.say(dialect.close)


def go_on(main: Lines, dialect: Dialect, *, feeds: bool, others: bool) -> None:
    """Once every slide is off the work the drum indexes; its spindles go on turning. `others`: whether there are more
    slides to wait for.
    """
    if feeds:
        main.say(dialect.feed, main.comment("the bar forward"))
    if others:
        main.say(f"M{dialect.wait + MARKS - 1}", main.comment("all slides off the work"))
    main.say(dialect.index)
