"""The one error that the core raises for a value that cannot work."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from cooper.i18n.text import Text, tr


class Open(float):
    """An end of a range that does not itself work."""


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
        unit = tr(" {unit}", unit=self.unit) if self.unit else ""
        return range_words(self.low, self.high, _plain, unit)

    def nearest(self) -> float | None:
        """The working value nearest to the one given, or None when that is not known."""
        try:
            value = float(self.value)
        except (TypeError, ValueError):
            return None
        if self.low is not None and not value >= self.low:
            return None if isinstance(self.low, Open) else self.low
        if self.high is not None and not value <= self.high:
            return None if isinstance(self.high, Open) else self.high
        return None

    def text(self) -> str:
        shown = _plain(self.value) if isinstance(self.value, int | float) else str(self.value)
        unit = tr(" {unit}", unit=self.unit) if self.unit and isinstance(self.value, int | float) else ""
        what = tr("{0} = {1}{2}", self.quantity, shown, unit) if shown else self.quantity
        works = self.range_text()
        if works:
            return tr("{what} cannot be: {reason}. What works: {works}.", what=what, reason=self.reason, works=works)
        return tr("{what} cannot be: {reason}.", what=what, reason=self.reason)


def message_of(fault: BaseException) -> str:
    """What an error says, still to be translated where it is a text of the program."""
    return fault.args[0] if fault.args and isinstance(fault.args[0], Text) else str(fault)


def range_words(low: float | None, high: float | None, shown: Callable[[float], str], unit: str = "") -> str:
    """A range in words, its ends as ``shown`` has them; empty without ends.

    >>> range_words(Open(0.0), None, "{:g}".format, " W"), range_words(Open(0.0), 9.0, "{:g}".format), range_words(None, 9.0, "{:g}".format)
    ('above 0 W', 'above 0 to 9', '9 or less')
    """  # noqa: E501
    if low is not None and high is not None:
        start = tr("above {0}", shown(low)) if isinstance(low, Open) else shown(low)
        end = tr("below {0}", shown(high)) if isinstance(high, Open) else shown(high)
        return tr("{low} to {high}{unit}", low=start, high=end, unit=unit)
    if low is not None:
        above = tr("above {0}{1}", shown(low), unit)
        return above if isinstance(low, Open) else tr("{0}{1} or more", shown(low), unit)
    if high is not None:
        below = tr("below {0}{1}", shown(high), unit)
        return below if isinstance(high, Open) else tr("{0}{1} or less", shown(high), unit)
    return ""


def _plain(value: float) -> str:
    return tr("{0:.6g}", value)
