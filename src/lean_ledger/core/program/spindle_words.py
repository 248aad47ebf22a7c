"""What is said to spindles that move: a counter spindle that takes a piece over, a drum that goes on."""

from __future__ import annotations

from lean_ledger.core.control.setting import MARKS
from lean_ledger.core.loads.handover import NEAR, PULL, SLOW, Handover
from lean_ledger.core.program.text import Lines
from lean_ledger.library.dialects import Dialect


def take_over(main: Lines, dialect: Dialect, one: Handover) -> None:
    """The counter spindle turns as fast, comes over the piece, the last of it slowly, and closes; it pulls the bar on
    where that is not fed.
    """
    main.say(dialect.synchronise, main.comment("the counter spindle takes the piece over"))
    main.say("G94")
    main.say(f"G0 W{main.number(one.at + NEAR)}")
    main.say(f"G1 W{main.number(one.at)} F{main.number(SLOW)}")
    main.ended()
    main.say(dialect.close)
    if one.by:
        main.say(dialect.loosen, main.comment("the bar is pulled on"))
        main.say(f"G1 W{main.number(one.at + one.by)} F{main.number(PULL)}")
        main.ended()
        main.say(dialect.grip)


def stop(main: Lines, dialect: Dialect) -> None:
    """All work spindles."""
    for code in dialect.spindles or ("",):
        main.say(code)
        main.say("M5")


def go_on(main: Lines, dialect: Dialect, *, feeds: bool, others: bool) -> None:
    """Once every slide is off the work the drum indexes; its spindles go on turning. `others`: whether there are more
    slides to wait for.
    """
    if feeds:
        main.say(dialect.feed, main.comment("the bar forward"))
    if others:
        main.say(f"M{dialect.wait + MARKS - 1}", main.comment("all slides off the work"))
    main.say(dialect.index)
