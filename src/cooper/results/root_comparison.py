"""The root of the true tooth beside what the methods say of it, with the whole load at the place where ISO 6336-3
has it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array
from cooper.field.loaded_contact import MeshCycle, largest_near
from cooper.field.stress_field import FieldBasis
from cooper.i18n.text import tr
from cooper.results.loaded_tooth import LoadedAsk
from cooper.results.result_tree import StageResults


class RootRow(Struct, frozen=True):
    """One way to judge the root: its words, the factor sigma b m_n / F_t of one pair that bears all, the stress
    (MPa)."""

    words: str
    factor: float
    sigma: float


class RootComparison(Struct, frozen=True):
    """The ways beside each other, the field's first; ``L`` where the load stands (length of roll, mm), the angle
    (degrees) of the tangent where the largest stress is, its error, and what parts ISO from the field."""

    rows: tuple[RootRow, ...]
    L: float
    tangent: float
    error: float
    parts: str


def load_place(s: StageResults, i: int) -> float:
    """Length of roll at which ISO 6336-3 has the load of the root of gear i (0, 1): the outer point of single
    contact of the virtual gear, or the tip; mm."""
    m, T2 = s.mesh, s.T2
    A, E = float(m.g_A), float(m.g_E)
    tip, root = (E, A) if i == 0 else (abs(T2 - A), abs(T2 - E))
    if float(s.gears[i].at_tip):
        return tip
    # In the virtual gear the load stands one base pitch from the other end.
    reach = float(m.p_et) * np.cos(np.radians(float(m.beta_b))) ** 2
    over = max(float(m.g_alpha) - reach, 0.0)
    return float(tip - np.sign(tip - root) * over)


def root_comparison(s: StageResults, i: int, basis: FieldBasis, ask: LoadedAsk) -> RootComparison:
    """Field, ISO 6336-3, AGMA 2101 and Lewis for gear i (0, 1) of a stage at the same load."""
    g, m = s.gears[i], s.mesh
    L = load_place(s, i)
    w = ask.F / ask.b
    F_t = float(m.F_t) * w * float(m.b_H) / float(m.F_bt)
    b, m_n = float(m.b_H), float(m.m_n)
    unit = F_t / (b * m_n)
    top, node, bottom, _ = basis.root(L)
    at_30 = float(basis.between(L, basis.sigma[0])[int(np.nonzero(basis.pull == basis.tangent)[0][0])])
    rows = [
        RootRow(tr("field, largest at the root"), top * w / unit, top * w),
        RootRow(tr("field, at ISO's tangent"), at_30 * w / unit, at_30 * w),
    ]
    # Of what bends with the tooth ISO knows Y_B alone; without a thin rim it is 1.
    iso = float(g.Y_F) * float(g.Y_S) * float(g.Y_B) / float(g.f_eps)
    rows.append(RootRow("ISO 6336-3, Y_F Y_S Y_B" if float(g.Y_B) != 1 else "ISO 6336-3, Y_F Y_S", iso, iso * unit))
    if "Y_J" in g:
        agma = float(np.cos(np.radians(float(m.beta)))) / float(g.Y_J)
        rows.append(RootRow("AGMA 908, 1/J", agma, agma * unit))
    lewis = 1 / float(g.Y_L)
    rows.append(RootRow(tr("Lewis, 1/Y, no notch"), lewis, lewis * unit))
    rows.append(RootRow(tr("field, compression at the other side"), bottom * w / unit, bottom * w))
    rows.append(RootRow(tr("field, from tension to compression"), (top - bottom) * w / unit, (top - bottom) * w))
    tangent = basis.tangent_angle(node)
    return RootComparison(tuple(rows), L, tangent, basis.error, _parts(rows, tangent, s, i, basis))


def _parts(rows: list[RootRow], tangent: float, s: StageResults, i: int, basis: FieldBasis) -> str:
    """What parts ISO's section from the field."""
    field, at_30, iso = rows[0].factor, rows[1].factor, rows[2].factor
    angle = 60 if s.kinds[i].inward else 30
    text = tr("ISO is {iso:+d} % from the field. ", iso=round(100 * (iso / field - 1)) + 0)
    text += tr(
        "The largest stress stands where the fillet's tangent is at {tangent:.0f}°, not {angle}°: {at_30:+.1f} %. ",
        tangent=tangent,
        angle=angle,
        at_30=100 * (at_30 / field - 1),
    )
    text += tr(
        "The rest: Y_S stands for the notch of a straight section; the load's compressive part, which "
        "relieves this side, is left out by ISO."
    )
    if not basis.solid:
        text += tr(
            " The rim is {rim:.1f} modules thick: as it thins the tension falls, while compression and "
            "range grow, which is what it breaks by. Judge it by the range; the section is held 1.5 "
            "pitches away, where a thin rim is stressed too.",
            rim=basis.rim / basis.m_n,
        )
    if "Y_J" in s.gears[i]:
        text += tr(" AGMA counts it, and takes its notch factor from photoelastic trials; its load shares by m_N.")
    return text


POINTS = 81
"""Places of the path at which the root's stress is told."""


class RootHistory(Struct, frozen=True):
    """Stress of the root while its tooth goes through the mesh: path coordinates ``g`` (mm), line loads ``w`` (N/mm)
    that bring it about, the loaded side's largest and the other side's smallest stress (MPa)."""

    g: Array
    w: Array
    top: Array
    bottom: Array

    def at(self, g: float) -> float:
        """The line load at a place of the path."""
        return float(np.interp(g, self.g, self.w))


def root_history(s: StageResults, i: int, basis: FieldBasis, cycle: MeshCycle) -> RootHistory:
    """The root of gear i (0, 1) over the mesh; of a helical tooth at its most stressed slice for each place. Loads
    of one slice are felt by its neighbours, so that the line load told is the one that stresses an even tooth as
    much."""
    A, E, T2 = float(s.mesh.g_A), float(s.mesh.g_E), s.T2
    g = np.linspace(A, E, POINTS)
    top = largest_near(g, cycle.g.ravel(), cycle.sigma[i].ravel(), float(s.mesh.p_et) / len(cycle.turn))
    pull, push = basis.roots(g if i == 0 else np.abs(T2 - g))
    w = top / pull
    return RootHistory(g, w, top, w * push)
