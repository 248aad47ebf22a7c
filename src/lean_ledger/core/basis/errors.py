"""The one family of errors that a user can cause and cure."""

from __future__ import annotations


class LedgerError(Exception):
    """A refusal with a stable code, a sentence that says what to do, and the place it is about.

    The web turns it into problem+json, the command line into one line on standard error.
    """

    def __init__(self, code: str, message: str, place: str = "") -> None:
        super().__init__(message)
        self.code = code
        self.message = message
        self.place = place

    def __reduce__(self) -> tuple[type[LedgerError], tuple[str, str, str]]:
        """Rebuilt whole on the far side of a process boundary."""
        return (type(self), (self.code, self.message, self.place))

    def __str__(self) -> str:
        return f"{self.place}: {self.message}" if self.place else self.message


class FileRefused(LedgerError):
    """A file that cannot be used: empty, cut short, of another format, without a solid, too large."""


class PlanError(LedgerError):
    """A decision that cannot be taken: out of range, against a precedence, about something that is not there."""


class ProblemError(LedgerError):
    """A problem file of the command line that breaks its contract; `place` is the path in the JSON."""
