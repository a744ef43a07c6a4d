"""The row above the load along a face: by which method its factor is found, and what evens it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QPushButton, QWidget

from cooper.desk.base.session import Session
from cooper.desk.widgets.choices import Choice
from cooper.desk.widgets.tag import Tag
from cooper.document.models import Design
from cooper.editing.edit import set_at, set_many
from cooper.errors import OutOfRange
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.machine.face_load import FaceLoad
from cooper.results.face_of_mesh import face_of_mesh
from cooper.results.machine_result import MachineResult
from cooper.results.result_tree import Results

METHODS = {"entered": "entered", "C": tr("by method C"), "f_sh": tr("from f_sh"), "shafts": tr("from these shafts")}


class FaceRow:
    """What stands above the plot of the selected mesh's face; ``found`` gives the machine."""

    def __init__(self, session: Session, parent: QWidget, result: Callable[[], MachineResult | None]) -> None:
        self.session, self.machine, self.fault = session, result, ""
        self.even = QPushButton(translate(tr("Even it")), parent)
        self.even.setObjectName("even_face")
        self.even.setProperty("chip", True)
        self.even.setAccessibleDescription(translate(tr("gives the helix the slope and crowning that even the load")))
        self.even.clicked.connect(self.even_it)
        self.method = Choice(session, "face_method", tr("face load factor"), self._now, self._methods)
        self.method.setParent(parent)
        self._kept: tuple[object, FaceLoad | None] = (None, None)

    def load(self) -> FaceLoad | None:
        """The load along the face of the selected mesh, found once for each state; None with ``fault`` where there
        is none."""
        result, k, results = self.machine(), self.session.stage, self.session.results
        if result is None:
            return None
        key = (id(results), k)
        if self._kept[0] != key:
            face, self.fault = results.faces.get(k), ""
            if face is None:
                try:
                    face = face_of_mesh(self.session.design.train, results, result, k)
                except OutOfRange as told:
                    self.fault = told.reason
            self._kept = (key, face)
        return self._kept[1]

    def show_row(self, shown: bool) -> None:
        self.even.setVisible(shown and self.load() is not None)
        self.method.setVisible(shown)
        self.method.refresh()
        self.method.adjustSize()
        self.even.adjustSize()

    def arrange(self, tags: list[Tag], y: int) -> None:
        """The method, the tags of slope and crowning, and the button, from the left."""
        self.method.move(14, y)
        x = 14 + self.method.width() + 8
        for tag in tags:
            tag.move(x, y)
            x += tag.width() + 6
        self.even.move(x + 4, y + 2)

    def even_it(self) -> None:
        """Give the helix the slope and crowning that even its load, and let the rating count the shafts."""
        face, k = self.load(), self.session.stage
        if face is None:
            return
        base = self.session.design.train.stages[k].path
        slope, crowning = round(face.C_Hbeta, 1), round(max(face.C_beta, 0.0), 1)

        def change(d: Design, _r: Results) -> Design:
            return set_many(
                d, {f"{base}.C_Hbeta": slope, f"{base}.C_beta": crowning, f"{base}.K_Hbeta_method": "shafts"}
            )

        self.session.edit(
            change, tr("C_Hbeta {slope:g}, C_beta {crowning:g} µm", slope=slope, crowning=crowning), "even_face"
        )

    def _now(self, d: Design) -> str:
        k = min(self.session.stage, len(d.train.stages) - 1)
        return tr("K_Hβ {method}", method=term(METHODS[d.train.stages[k].mesh.K_Hbeta_method]))

    def _methods(self) -> list[tuple[str, Callable[[Design], Design]]]:
        path = f"{self.session.design.train.stages[self.session.stage].path}.K_Hbeta_method"
        return [
            (tr("K_Hβ {method}", method=term(words)), lambda d, v=v: set_at(d, path, v))  # type: ignore[misc]
            for v, words in METHODS.items()
        ]
