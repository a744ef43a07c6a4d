"""Plots and words of the loaded teeth."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.typeset import wrapped
from cooper.document.units import number_with_unit
from cooper.exchange.plots import Line, Plot
from cooper.i18n.text import tr
from cooper.rating.along_path import AlongPath
from cooper.results.loaded_curves import LoadedCurves

if TYPE_CHECKING:
    from cooper.desk.lenses.loaded_contact_view import LoadedContact


Placed = list[tuple[QRectF, Plot, bool]]
"""Plots with their frames, and whether they stand over the path of contact."""


def plots_of(view: LoadedContact, formulas: AlongPath) -> Placed:
    """The plots with their frames, and whether they stand over the path of contact; none before the teeth are
    loaded."""
    curves, ask = view.curves, view.source.ask
    if curves is None or ask is None or view.mapped:
        return []
    m = view.session.results.stages[view.session.stage].mesh
    K = ask.F * ask.halves / max(float(m.F_bt), 1e-9)
    sigma_H = formulas.sigma_H * np.sqrt(K / max(_counted(view.session), 1e-9))

    def over_path(title: str, kind: str, *lines: Line) -> Plot:
        return Plot(title, kind, lines, tr("path of contact"))

    loaded, by_formula = tr("loaded teeth"), tr("formula")
    share = over_path(
        tr("share of the load on one pair of teeth"),
        "factor",
        Line(curves.g, curves.share, "copper", name=loaded),
        Line(formulas.g, formulas.share, "ink", faint=True, name=by_formula),
    )
    pressure = over_path(
        tr("largest pressure over the face"),
        "stress",
        Line(curves.g, curves.p, "copper", name=loaded),
        Line(formulas.g, sigma_H, "ink", faint=True, name=by_formula),
    )
    last = heat_plots(view, curves, over_path) if view.heat else error_plots(view, curves, over_path)
    return [(view.frame(0, 4), share, True), (view.frame(1, 4), pressure, True), *last]


def error_plots(view: LoadedContact, curves: LoadedCurves, over_path: Callable[..., Plot]) -> Placed:
    """Root stress along the path; transmission error and mesh stiffness over two pitches."""
    root = over_path(
        tr("root stress, driving and driven gear"),
        "stress",
        Line(curves.g, curves.sigma[0], "driver", name=tr("driving gear")),
        Line(curves.g, curves.sigma[1], "driven", name=tr("driven gear")),
    )
    turn, pitches = np.concatenate((curves.turn, curves.turn + 1, [2.0])), tr("pitches")
    errors = [Line(turn, _twice(curves.te), "copper", name=tr("of one mesh"))]
    text = tr("transmission error, two pitches")
    if len(curves.together):
        errors.append(Line(turn, _twice(curves.together), "driver", name=tr("of all planets")))
        text = tr("transmission error; at all planets together")
    c_gamma = float(view.session.results.stages[view.session.stage].mesh.c_gamma) * np.ones(2)
    stiffness = (
        Line(turn, _twice(curves.c), "copper", name=tr("loaded teeth")),
        Line(np.array([0.0, 2.0]), c_gamma, "ink", faint=True, name="c_γ"),
    )
    one, two = halves(view, 3)
    return [
        (view.frame(2, 4), root, True),
        (one, Plot(text, "roughness", tuple(errors), pitches, "factor", from_zero=False), False),
        (two, Plot(tr("mesh stiffness and c_γ"), "stiffness", stiffness, pitches, "factor"), False),
    ]


def heat_plots(view: LoadedContact, curves: LoadedCurves, over_path: Callable[..., Plot]) -> Placed:
    """Sliding speed, local friction and flash temperature along the path."""
    one, two = halves(view, 2)
    result = [(one, over_path(tr("sliding speed"), "velocity", Line(curves.g, curves.v_g, "driver")), True)]
    if np.isfinite(curves.mu).all():
        friction = over_path(tr("local coefficient of friction"), "factor", Line(curves.g, curves.mu, "ink"))
        result.append((two, friction, True))
    if np.isfinite(curves.flash).all():
        title = tr("flash temperature of the most loaded slice, K")
        flash = over_path(title, "number", Line(curves.g, curves.flash, "copper"))
        result.append((view.frame(3, 4), flash, True))
    return result


def halves(view: LoadedContact, n: int) -> tuple[QRectF, QRectF]:
    """Two frames side by side in the n-th row."""
    f = view.frame(n, 4)
    wide = f.width() / 2 - 30
    return QRectF(f.left(), f.top(), wide, f.height()), QRectF(f.left() + wide + 60, f.top(), wide, f.height())


def paint_words(view: LoadedContact, p: QPainter, area: QRectF, curves: LoadedCurves, c_gamma: float) -> None:
    theme, system = view.theme, view.session.system
    c = number_with_unit(curves.c_mean, "stiffness", system)
    before, after = (number_with_unit(v, "length", system) for v in curves.lead)
    touch = tr("Tip edges touch neither before A nor after E.")
    if max(curves.lead) > 0.005:
        touch = tr("Tip edges would touch {before} before A and {after} after E.", before=before, after=after)
    parts = tr(
        "Mean stiffness {c}, c_γ of ISO 6336-1 {c_gamma:+.0f} %: it has real gears a fifth softer (C_M).",
        c=c,
        c_gamma=100 * (c_gamma / curves.c_mean - 1),
    )
    rows = [touch, parts]
    if np.isfinite(curves.lost):
        eta = float(view.session.results.stages[view.session.stage].mesh.eta_z)
        rows.append(
            tr(
                "Friction takes {lost:.2f} % with this sharing, {eta:.2f} % by the losses' formula.",
                lost=100 * curves.lost,
                eta=100 * (1 - eta),
            )
        )
    if len(curves.together):
        rows.append(
            tr(
                "At all planets together the error is {together:.2g} µm, at one {ptp:.2g} µm.",
                together=float(np.ptp(curves.together)),
                ptp=curves.ptp,
            )
        )
    if view.sampled is not None:
        s = view.sampled
        rows.append(
            tr(
                "Made within their classes, {ptp} samples: error {min:.2g} to {max:.2g} µm, pressure up to {system}.",
                ptp=len(s.ptp),
                min=s.ptp.min(),
                max=s.ptp.max(),
                system=number_with_unit(float(s.p.max()), "stress", system),
            )
        )
    model = tr(
        "{fineness} grid{busy}; models beside the rating, which count in no check.",
        fineness=view.source.fineness,
        busy=tr(", a finer one is coming") if view.source.busy else "",
    )
    y = area.top()
    for text in (*rows, model):
        # In a low window the first ones have to do.
        if y + 30 > view.foot - 44:
            break
        y = wrapped(p, text, th.font(th.SMALL), theme.color("muted"), area.left(), y, area.width()) + 3
    stage = view.session.design.train.stages[view.session.stage]
    text = tr(
        "Tip reliefs from the load, long and short, and a crowning: point at one for its reason, a click gives it."
    )
    if any(g.flanks_left is not None for g in stage.gears):
        bears = "left" if view.session.turns_left(view.session.stage) else "right"
        text += tr(" Shown are the {bears} flanks, which bear.", bears=bears)
    why = view.why or text
    x = view.left_area().left() - 50
    wrapped(
        p,
        why,
        th.font(th.SMALL),
        theme.color("ink" if view.why else "muted"),
        x,
        view.foot - 42,
        view.width() - x - 20,
    )


def _twice(values: np.ndarray) -> np.ndarray:
    """Two pitches of what repeats."""
    return np.concatenate((values, values, values[:1]))


def _counted(session: Session) -> float:
    """The load factors that the formulas' pressure contains."""
    m = session.results.stages[session.stage].mesh
    return float(m.K_A * m.K_gamma * m.K_V * m.K_Hbeta * m.K_Halpha)
