"""Seconds from motion: how long the machine takes for a path, with its accelerations and corner speeds."""

from lean_ledger.core.timing.motion import Stroke, StrokeTime, feed, rapid, time_strokes

__all__ = ["Stroke", "StrokeTime", "feed", "rapid", "time_strokes"]
