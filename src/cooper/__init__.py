"""Cooper: design and check cylindrical gear trains on a drawing. As a library: see `cooper.api`."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from cooper.version import __version__

if TYPE_CHECKING:
    from cooper.api import Model, example, from_duty, open

__all__ = ["Model", "__version__", "example", "from_duty", "open"]


def __getattr__(name: str) -> Any:
    """What the library offers, imported when it is first asked for: starting the program needs none of it."""
    if name in __all__ and name != "__version__":
        from cooper import api

        return getattr(api, name)
    raise AttributeError(f"module 'cooper' has no attribute {name!r}")
