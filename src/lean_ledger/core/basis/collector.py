"""How often a process looks through what it keeps for rings that nobody holds."""

from __future__ import annotations

import gc

COLLECT = (20_000, 20, 50)  # plans are trees, not rings: looking through all that is kept finds next to nothing


def keep_what_is_there(*, looked_through: bool = True) -> None:
    """What is there before the work begins stays, and rings are looked for seldom.

    Not once anybody may end the process: an interrupt that comes while it is looked through can be lost.
    """
    if looked_through:
        gc.collect()
    gc.freeze()
    gc.set_threshold(*COLLECT)
