"""The tooth of a stage under load: what is asked of the field from the document and its results, and what is found,
the coarse answer first.

These are models beside the ratings: nothing of it counts in a check.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from cooper.arrays import Array, Index, as_float
from cooper.document.models import Train
from cooper.errors import OutOfRange
from cooper.field.loaded_contact import MeshCycle, Meshing, mesh_cycle
from cooper.field.stress_field import Body, FieldBasis, compliance_in, field_basis, refined, section_body
from cooper.field.tooth_grid import COARSE, FINE, ROUGH, USUAL
from cooper.gears.flank_form import FlankForm, helix_form, profile_form
from cooper.gears.rack_gear import is_rack
from cooper.gears.tip import tip_form_diameter
from cooper.gears.tolerances import flank_tolerances
from cooper.gears.virtual import virtual_tooth
from cooper.i18n.text import tr
from cooper.results.flank_forms import bears_left, form_of, reach_of
from cooper.results.result_tree import Results, StageResults
from cooper.results.to_core import stiffness_of

ROUGHLY = 0.06
"""Error of the root stress on a coarse grid, which the estimate from its elements gives too low; held by a test
over demos."""
FINENESS = {"coarse": (COARSE, 8, 32), "usual": (USUAL, 20, 64)}
"""Grid, slices along the face and positions over a pitch of each answer."""


class LoadedAsk(Struct, frozen=True, kw_only=True):
    """What is asked of a stage: both bodies and the forms of their flanks; ends A and E of the path, T2 and p_et
    (mm); width b of one helix (mm) with tan beta_b (positive where contact runs ahead at the right end), helix crowning
    and slope of the pair (um), what shafts open at the places of ``opened`` (mm, um); F the force F_bt on one helix
    with what is counted (N) and the factors in it by name; cos beta_b; ``halves`` of a double helix.

    ``omega_1`` (rad/s), ``u`` and ``eta_oil`` (mPa s) for friction, ``steel`` whether flash temperatures hold;
    ``phases`` of the same mesh at all planets (shares of a pitch); ``tolerances`` f_pT, f_HalphaT, f_HbetaT of both
    gears (um), ``pitch`` deviations by number of the pair (um)."""

    bodies: tuple[Body, Body]
    forms: tuple[FlankForm, FlankForm]
    A: float
    E: float
    T2: float
    p_et: float
    b: float
    tan_beta_b: float
    C_beta: float
    C_Hbeta: float
    opened: tuple[Array, Array] | None
    F: float
    counted: tuple[tuple[str, float], ...]
    cos_b: float
    halves: int = 1
    omega_1: float = 0.0
    u: float = 1.0
    eta_oil: float = float("nan")
    steel: bool = False
    phases: tuple[float, ...] = ()
    tolerances: tuple[tuple[float, float, float], ...] = ()
    pitch: tuple[float, ...] = ()

    def gap(self, g: Array, y: Array, pair: Index) -> Array:
        """What separates both flanks before they are loaded (um), by path coordinate, place along the face and
        number of the pair."""
        one, two = self.forms
        A, E, T2 = self.A, self.E, self.T2
        result = profile_form(one, g, A, E) + profile_form(two, np.abs(T2 - g), abs(T2 - E), abs(T2 - A))
        result = result + helix_form(one, y, self.b) + helix_form(two, y, self.b)
        result = result + helix_form(FlankForm(C_beta=self.C_beta, C_Hbeta=self.C_Hbeta), y, self.b)
        if self.pitch:
            result = result + np.array(self.pitch)[np.asarray(pair) % len(self.pitch)]
        if self.opened is not None:
            result = result + np.interp(y, *self.opened)
        return as_float(result)


LEAST_LAND = 0.02
"""Least thickness of a tip in the section that is solved, in modules; under a load on an edge without metal behind
it nothing is defined."""
ENOUGH = 0.02
"""Error of the largest root stress above which a finer field is found."""
COUNTED = {"nominal": (), "K_A": ("K_A", "K_gamma"), "all": ("K_A", "K_gamma", "K_V")}
"""Load factors that a loaded tooth is asked with; how the load lies along face and profile it finds itself."""


def loaded_ask(train: Train, results: Results, k: int, counted: str, left: bool | None = None) -> LoadedAsk:
    """What is asked of stage k with the load factors ``counted``, on left flanks, on right ones, or (None) on those
    that bear; raises `OutOfRange` where no load is on it."""
    left = bears_left(train, results, k) if left is None else left
    s, doc = results.stages[k], train.stages[k]
    mesh, m = doc.mesh, s.mesh
    if not float(m.F_bt) > 0:
        raise OutOfRange(
            "T_mesh", float(m.get("T_mesh", 0.0)), tr("no torque is on this mesh: an unloaded tooth has no stress")
        )
    gears = doc.gears
    A, E, T2 = float(m.g_A), float(m.g_E), s.T2
    reach = reach_of(s, 0), reach_of(s, 1)
    bodies = []
    for i in (0, 1):
        section = s.sections[i]
        E_i, nu = stiffness_of(gears[i], s.gears[i])
        bodies.append(
            Body(
                # The flank that bears; the other one leaves its stresses as they are.
                tooth=replace(s.teeth[i].turned if left else s.teeth[i], left=None),
                form=s.forms[i],
                edge=section.edge,
                ring=section.inward or gears[i].d_i is not None,
                E=E_i,
                nu=nu,
                L_f=reach[i][0],
                L_a=reach[i][1],
            )
        )
        d_i = gears[i].d_i
        if d_i is not None:
            bodies[-1] = replace(bodies[-1], edge=float(d_i))
        _refuse_pointed(bodies[-1], i)
    factors = tuple((n, float(m[n])) for n in COUNTED[counted])
    halves = 2 if mesh.double_helix else 1
    K = float(np.prod([v for _, v in factors])) if factors else 1.0
    beta_b = np.radians(float(m.beta_b))
    face = results.faces.get(k)
    return LoadedAsk(
        bodies=(bodies[0], bodies[1]),
        forms=(form_of(gears[0], s, left), form_of(gears[1], s, left)),
        A=A,
        E=E,
        T2=T2,
        p_et=float(m.p_et),
        b=float(m.b_H) / halves,
        tan_beta_b=float(np.tan(beta_b)) * (1 if (mesh.hand == "right") == left else -1),
        C_beta=mesh.C_beta,
        C_Hbeta=mesh.C_Hbeta,
        opened=None if face is None else (face.y, face.gap),
        F=float(m.F_bt) * K / halves,
        counted=factors,
        cos_b=float(np.cos(beta_b)),
        halves=halves,
        omega_1=float(s.power.n_mesh) * np.pi / 30,
        u=s.ratio,
        eta_oil=float(m.get("eta_oil", float("nan"))),
        steel="theta_fl" in m,
        phases=_phases(results, k),
        tolerances=tuple(_tolerances(s, i) for i in (0, 1)),
    )


def _refuse_pointed(body: Body, i: int) -> None:
    """Refuse a helical tooth that ends in a point in the normal section, in which it is solved, though not in the
    transverse one."""
    t, least = virtual_tooth(body.tooth), LEAST_LAND * float(body.tooth.m_n)
    if float(body.tooth.beta) == 0 or float(t.s_y(t.d_a)) > least:
        return
    d = np.linspace(float(t.d), float(t.d_a), 500)
    thick = d[t.s_y(d) > least]
    d_a = abs(float(body.tooth.d_a))
    high = round(d_a - abs(float(t.d_a - thick[-1])), 3) if len(thick) and float(t.sign) > 0 else None
    works = "" if high is None else tr("; up to {high:g} mm they have a land", high=high)
    raise OutOfRange(
        f"d_a{i + 1}",
        d_a,
        tr(
            "with a tip diameter of {d_a:.3f} mm the teeth of gear {i} end in a point in their normal "
            "section, in which loaded teeth are found{works}",
            d_a=d_a,
            i=i + 1,
            works=works,
        ),
        high=high,
        unit="mm",
    )


def _phases(results: Results, k: int) -> tuple[float, ...]:
    """How far the mesh of stage k at each planet is ahead of that at the first, in pitches: by the places of the
    planets and the count of the gear about the axis."""
    one, s = results.within[k], results.stages[k]
    if one is None or one.planets < 2 or s.roles is None:
        return ()
    central = next((i for i in (0, 1) if s.roles[i] in ("sun", "ring", "ring 2")), None)
    if central is None:
        return ()
    z = abs(float(s.gears[central].z))
    return tuple(round(float(z * angle / (2 * np.pi)), 9) % 1 for angle in one.angles)


def _tolerances(s: StageResults, i: int) -> tuple[float, float, float]:
    g = s.gears[i]
    d = float(g.get("d", s.gears[0].d))
    t = flank_tolerances(abs(d), float(s.mesh.m_n), float(g.b), float(g.Q))
    return float(t["f_pT"]), float(t["f_HalphaT"]), float(t["f_HbetaT"])


class LoadedResult(Struct, frozen=True):
    """One answer: how fine, the fields of the gears that were asked for, and the mesh cycle where it is there
    already."""

    fineness: str
    fields: dict[int, FieldBasis] = field(default_factory=dict)
    cycle: MeshCycle | None = None


def cycle_of(ask: LoadedAsk, fineness: str, F: float | None = None) -> MeshCycle:
    """The mesh cycle of what is asked, at another load where one is given."""
    f, slices, positions = FINENESS[fineness]
    compliances = []
    heights = []
    for i, body in enumerate(ask.bodies):
        own, cos_b = section_body(body)
        c = compliance_in(own, f, driver=i == 0)
        # From the normal section to the transverse one, in which the path lies.
        compliances.append(replace(c, L=c.L * cos_b, G=c.G / cos_b))
        heights.append(abs(float(own.tooth.d_a) - float(own.tooth.d_f)) / 2)
    straight = ask.tan_beta_b == 0 and ask.opened is None and not any(_along(f) for f in ask.forms)
    even = straight and ask.C_beta == 0 and ask.C_Hbeta == 0
    m = Meshing(
        A=ask.A,
        E=ask.E,
        T2=ask.T2,
        p_et=ask.p_et,
        b=ask.b,
        tan_beta_b=ask.tan_beta_b,
        F=ask.F if F is None else F,
        h=(heights[0], heights[1]),
        tan_alpha_a=(_tip_angle(ask.bodies[1]), _tip_angle(ask.bodies[0])),
        gap=ask.gap,
        cos_b=ask.cos_b,
        slices=1 if even else slices,
        # The jump where a spur pair hands over needs closer places than the even passage of a helical one.
        positions=2 * positions if even else positions,
    )
    return mesh_cycle(m, compliances[0], compliances[1])


def _tip_angle(body: Body) -> float:
    """Tangent of the transverse profile angle at the end of the involute at the tip; of a rack that of its flank."""
    t = body.tooth
    if is_rack(t):
        return float(np.tan(t.alpha_t))
    ratio = min(abs(float(t.d_b) / float(tip_form_diameter(t))), 1 - 1e-12)
    return float(np.sqrt(1 / ratio**2 - 1))


def compared(coarse: MeshCycle, usual: MeshCycle) -> MeshCycle:
    """The finer of two cycles of one mesh with what it differs from the coarser one by."""
    ptp = abs(float(np.ptp(usual.te)) - float(np.ptp(coarse.te)))
    top = float(usual.p.max())
    return replace(usual, off=(ptp, abs(top - float(coarse.p.max())) / max(top, 1e-12)))


def _along(form: FlankForm) -> bool:
    return bool(form.C_bI or form.C_bII or form.C_beta or form.C_Hbeta)


def each_loaded(
    ask: LoadedAsk, gears: tuple[int, ...], cycle: bool = True, finest: str = "fine"
) -> Iterator[LoadedResult]:
    """Answers as they come: fields of the gears asked for (0, 1), rough, and with the mesh cycle coarse, then as
    fine as is usual; none that is finer than ``finest``."""
    if gears:
        fields = {i: field_basis(ask.bodies[i], ROUGH) for i in gears}
        yield LoadedResult(tr("rough"), {i: replace(one, error=max(one.error, ROUGHLY)) for i, one in fields.items()})
    before: dict[int, FieldBasis] = {}
    last: MeshCycle | None = None
    for fineness, (f, _, _) in FINENESS.items():
        fields = {i: field_basis(ask.bodies[i], f) for i in gears}
        fields = {i: refined(before[i], one) if i in before else one for i, one in fields.items()}
        before = fields
        if fields and (fineness != "coarse" or not cycle):
            yield LoadedResult(fineness, fields)
        if cycle:
            result = cycle_of(ask, fineness)
            last = result if last is None else compared(last, result)
            yield LoadedResult(fineness, fields, last)
        if fineness == finest:
            return
    # A nearly sharp fillet asks for more.
    if rough := {i: one for i, one in before.items() if one.error > ENOUGH}:
        yield LoadedResult("fine", {i: refined(one, field_basis(ask.bodies[i], FINE)) for i, one in rough.items()})
