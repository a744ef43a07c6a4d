"""The one error that the core raises for a value that cannot work."""

from __future__ import annotations

from functools import partial
from typing import Any


class OutOfRange(ValueError):
    """A value that cannot work, with the reason and the range that does.

    ``quantity`` is the ISO symbol in ASCII (``x_1``, ``a_w``), ``value`` what was given, ``low`` and ``high`` the
    ends of the working range (None where there is no end), ``unit`` their unit as it stands in the document.

    >>> str(OutOfRange("z_1", 3, "a gear needs at least 5 teeth", low=5))
    'z_1 = 3 cannot be: a gear needs at least 5 teeth. What works: 5 or more.'
    """

    def __init__(
        self,
        quantity: str,
        value: float | str,
        reason: str,
        *,
        low: float | None = None,
        high: float | None = None,
        unit: str = "",
    ) -> None:
        self.quantity, self.value, self.reason = quantity, value, reason
        self.low, self.high, self.unit = low, high, unit
        super().__init__(self.text())

    def __reduce__(self) -> tuple[Any, ...]:
        made = partial(OutOfRange, low=self.low, high=self.high, unit=self.unit)
        return made, (self.quantity, self.value, self.reason)

    def range_text(self) -> str:
        """The working range in words; empty when none is known."""
        unit = f" {self.unit}" if self.unit else ""
        if self.low is not None and self.high is not None:
            return f"{_plain(self.low)} to {_plain(self.high)}{unit}"
        if self.low is not None:
            return f"{_plain(self.low)}{unit} or more"
        if self.high is not None:
            return f"{_plain(self.high)}{unit} or less"
        return ""

    def nearest(self) -> float | None:
        """The working value nearest to the one given, or None when that is not known."""
        try:
            value = float(self.value)
        except (TypeError, ValueError):
            return None
        if self.low is not None and not value >= self.low:
            return self.low
        if self.high is not None and not value <= self.high:
            return self.high
        return None

    def text(self) -> str:
        shown = _plain(self.value) if isinstance(self.value, int | float) else str(self.value)
        unit = f" {self.unit}" if self.unit and isinstance(self.value, int | float) else ""
        works = f" What works: {self.range_text()}." if self.range_text() else ""
        what = f"{self.quantity} = {shown}{unit}" if shown else self.quantity
        return f"{what} cannot be: {self.reason}.{works}"


def _plain(value: float) -> str:
    return f"{value:.6g}"
