"""The lenses in their order: what each is called, and the module that makes it. A new lens is a module and a row here.

A module is imported when its lens is first looked through, or in a turn of its own once the window has been painted.
"""

from __future__ import annotations

from importlib import import_module
from types import ModuleType
from typing import TYPE_CHECKING

from msgspec import Struct

from cooper.i18n.text import tr

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from cooper.desk.shell.bench import Bench


class LensEntry(Struct, frozen=True):
    """A way to look at the Bench's stage; ``own_tags`` where it brings its own in place of the Bench's."""

    key: str
    words: str
    name: str
    own_tags: bool = False

    @property
    def module(self) -> ModuleType:
        """Where it is made, by its function ``create_lens`` of the Bench."""
        return import_module(f"cooper.desk.lenses.{self.name}")

    def make(self, bench: Bench) -> QWidget:
        """The view of the lens."""
        view: QWidget = self.module.create_lens(bench)
        return view


LENSES = {
    entry.key: entry
    for entry in (
        LensEntry("teeth", tr("Teeth"), "drawing"),
        LensEntry("side", tr("Side"), "side_lens"),
        LensEntry("contact", tr("Contact"), "contact_lens"),
        LensEntry("shifts", tr("Shifts"), "shift_lens"),
        LensEntry("tooth", tr("Tooth"), "tooth_lens"),
        LensEntry("train", tr("Train"), "train_lens"),
        LensEntry("set", tr("Set"), "set_lens", own_tags=True),
        LensEntry("shafts", tr("Shafts"), "shafts_lens", own_tags=True),
        LensEntry("stress", tr("Stress"), "stress_lens", own_tags=True),
    )
}
