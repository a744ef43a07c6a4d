"""The symbols of quantities in a text: where they stand and how they are set."""

from __future__ import annotations

import re

from cooper.document.quantities import QUANTITIES, parts
from cooper.i18n.text import tr

MEASURE = re.compile(r"[A-Za-z]_[A-Za-z0-9″]+")
"""A letter with its subscript."""


def symbol_in(text: str) -> tuple[str, str, str, str] | None:
    """A plain symbol as what stands before it, its letter, subscript, and power; None for other words.

    >>> symbol_in("× Z_E^0.5"), symbol_in("steel"), symbol_in("F_pkT")
    (('× ', 'Z', 'E', '0.5'), None, ('', 'F', 'pkT', ''))
    """
    sign, _, rest = text.rpartition("× ")
    name, _, power = rest.partition("^")
    for end in ("_in", "_out", "_back"):
        if name.endswith(end) and (stem := name.removesuffix(end)) in QUANTITIES:
            main, sub = parts(stem)
            return "", main, tr("{sub} {end}", sub=sub, end=end[1:]).strip(), ""
    base, index = (
        (name[:-1], name[-1]) if name[-1:] in ("1", "2") and name[:-1].rstrip("_") in QUANTITIES else (name, "")
    )
    symbol = base.rstrip("_") if base.rstrip("_") in QUANTITIES else base
    if symbol not in QUANTITIES:
        # Measures and tolerances are no quantities of a design.
        return ("", *parts(name), power) if MEASURE.fullmatch(name) else None
    main, sub = parts(symbol, int(index) if index else None)
    return tr("{sign}× ", sign=sign) if sign or "× " in text else "", main, sub, power
