"""The plots of a report: the teeth of a stage under its nominal load."""

from __future__ import annotations

import numpy as np

from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.exchange.plots import Line, Plot, plot_svg
from cooper.i18n.text import tr
from cooper.results.loaded_curves import LoadedCurves, curves_of
from cooper.results.loaded_tooth import loaded_ask
from cooper.results.result_tree import Results


def loaded_plots(curves: LoadedCurves, c_gamma: float) -> list[Plot]:
    """Share of the load, pressure and root stress along the path of contact; transmission error and mesh stiffness
    over two pitches."""
    path, pitches = tr("path of contact"), tr("pitches")
    turn = np.concatenate((curves.turn, curves.turn + 1, [2.0]))

    def twice(values: np.ndarray) -> np.ndarray:
        return np.concatenate((values, values, values[:1]))

    root = (
        Line(curves.g, curves.sigma[0], "driver", name=tr("driving gear")),
        Line(curves.g, curves.sigma[1], "driven", name=tr("driven gear")),
    )
    stiffness = (
        Line(turn, twice(curves.c), "copper", name=tr("loaded teeth")),
        Line(np.array([0.0, 2.0]), c_gamma * np.ones(2), "ink", faint=True, name="c_γ"),
    )
    error = Line(turn, twice(curves.te), "copper")
    return [
        Plot(tr("largest pressure over the face"), "stress", (Line(curves.g, curves.p, "copper"),), path),
        Plot(tr("root stress, driving and driven gear"), "stress", root, path),
        Plot(tr("transmission error, two pitches"), "roughness", (error,), pitches, "factor", from_zero=False),
        Plot(tr("mesh stiffness and c_γ"), "stiffness", stiffness, pitches, "factor"),
    ]


def loaded_svg(design: Design, results: Results, k: int, system: str) -> str:
    """The plots of a stage; empty where no load is on it."""
    try:
        ask = loaded_ask(design.train, results, k, "nominal")
    except OutOfRange:
        return ""
    return plot_svg(loaded_plots(curves_of(ask), float(results.stages[k].mesh.c_gamma)), system)
