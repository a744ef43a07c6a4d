"""The Qt interface: the only folder that imports Qt."""

import sys

# What is no part of the desk comes before the toolkit, which looks at everything that is imported after it.
import cooper.results.evaluate  # noqa: F401


def _leave_sources_alone() -> None:
    """Have the toolkit not read the source of every module for its switches of the language, of which none is used
    here.

    That takes a third of a millisecond each and keeps megabytes. Without this the same is imported, only later.
    """
    import shiboken6  # noqa: F401

    switches = sys.modules.get("shibokensupport.feature")
    if hasattr(switches, "_mod_uses_pyside"):
        switches._mod_uses_pyside = lambda _module: True  # type: ignore[union-attr]


_leave_sources_alone()
