"""Every check of a stage and of the train, as value against limit; of arrays of designs in the same way."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct, field

from cooper.arrays import Mixed as Array
from cooper.arrays import all_, as_float, where
from cooper.document.duty import Defaults
from cooper.document.gear_data import Gear
from cooper.document.models import Train
from cooper.i18n.text import term, tr
from cooper.rating.plastics import GREATEST_DEFLECTION
from cooper.results.check_types import MOST, Check, make_check
from cooper.results.train_losses import HOTTEST
from cooper.stock.materials import is_plastic, theta_range
from cooper.values import TrainValues

if TYPE_CHECKING:
    from cooper.results.result_tree import StageResults

GEAR_WORDS = (tr("pinion"), tr("wheel"))
ROOM = 20.0
"""Temperature (degrees C) from which the margin of a plastic's warmth is measured."""
FORM_SCALE = 0.2
"""Modules of form over-dimension that count as a margin of 100 %: thin below 0.02 m_n."""


def gear_word(stage: StageResults, i: int) -> str:
    """What gear i (1, 2) of a mesh is called: by its role in a set, else the smaller is the pinion."""
    if stage.roles is not None:
        return term(stage.roles[i - 1])
    if stage.kind.gear_words is not None:
        return term(stage.kind.gear_words[i - 1])
    smaller = 1 if all_(stage.gears[0].z <= stage.gears[1].z) else 2
    return term(GEAR_WORDS[0] if i == smaller else GEAR_WORDS[1])


def _no_more(value: Array) -> Array:
    """A safety, `MOST` for any greater one."""
    return min(value, MOST) if isinstance(value, float) else np.minimum(value, MOST)


class _Stage(Struct):
    """One pair being checked; every check that is made is gathered."""

    k: int
    results: StageResults
    defaults: Defaults
    members: tuple[Gear, Gear]
    found: list[Check] = field(default_factory=list)

    def add(
        self, type_: str, value: Array, limit: Array, i: int | None = None, scale: Array = None, symbol: str = ""
    ) -> None:
        """Make a check of the table, for gear ``i`` or the mesh."""
        word = {} if i is None else {"word": gear_word(self.results, i)}
        self.found.append(make_check(type_, value, limit, symbol=symbol, index=i, stage=self.k, scale=scale, **word))


def load_checks(k: int, s: StageResults, defaults: Defaults, members: tuple[Gear, Gear]) -> list[Check]:
    """The checks of one pair that its load decides: strength, scuffing, warmth, wear."""
    at = _Stage(k, s, defaults, members)
    for i in (1, 2):
        _strength(at, i)
        _service(at, i)
    _together(at)
    return at.found


def stage_checks(k: int, s: StageResults, defaults: Defaults, members: tuple[Gear, Gear]) -> list[Check]:
    """All checks of one pair; ``members`` are its gears as they stand in the results."""
    at = _Stage(k, s, defaults, members)
    for i in (1, 2):
        if s.rated:
            _strength(at, i)
        _form(at, i)
        _service(at, i)
    _together(at)
    _mesh(at)
    return at.found


def _strength(at: _Stage, i: int) -> None:
    """Root and flank of a gear, by the governing method, and its strength against the greatest load."""
    s, g, defaults = at.results, at.results.gears[i - 1], at.defaults
    own = at.members[i - 1]
    by_agma = defaults.method.startswith("ANSI") and "S_HA" in s.gears[0]
    by_iso = [f"{name}eq" if f"{name}eq" in g else name for name in ("S_F", "S_H")]
    # AGMA has no bending number of internal teeth.
    root, flank = (
        f"{name}A" if by_agma and f"{name}A" in g else iso for name, iso in zip(("S_F", "S_H"), by_iso, strict=True)
    )
    # What a gear asks for itself goes before what its stage or the train asks for.
    asks = defaults.plastics if is_plastic(own.material.group) else defaults
    S_Fmin, S_Hmin = own.S_Fmin or asks.S_Fmin, own.S_Hmin or asks.S_Hmin
    for name, symbol, least in (("root", root, S_Fmin), ("flank", flank, S_Hmin)):
        at.add(f"{name}_spectrum" if symbol.endswith("eq") else name, _no_more(g[symbol]), least, i, symbol=symbol)
    at.add("root_static", _no_more(g.S_Fst), defaults.S_Fstmin or S_Fmin, i)
    at.add("flank_static", _no_more(g.S_Hst), defaults.S_Hstmin or S_Hmin, i)


def _form(at: _Stage, i: int) -> None:
    """Tip, clearance and flank of a gear."""
    g, defaults, m_n = at.results.gears[i - 1], at.defaults, at.results.mesh.m_n
    at.add("tip_land", g.s_anE, defaults.s_an_min * m_n, i, m_n * max(defaults.s_an_min, 0.1))
    at.add("tip_clearance", g.c, defaults.c_min * m_n, i, m_n * max(defaults.c_min, 0.05))
    cut = g.undercut
    if not all_(cut):
        # Where the tool has cut into the flank its end is no limit.
        reach = g.c_F if np.ndim(cut) == 0 else where(cut, np.inf, g.c_F)
        at.add("flank_reach", reach, 0.0, i, FORM_SCALE * m_n)


def _service(at: _Stage, i: int) -> None:
    """What only some materials are checked for: the case, the warmth, the wear."""
    g = at.results.gears[i - 1]
    if "CHD_c" in g and at.results.rated:
        at.add("case_depth", g.CHD, g.CHD_c, i)
    if "S_FF" in g and at.results.rated:
        at.add("flank_fracture", _no_more(g.S_FF), at.defaults.S_FFmin, i)
    if "theta_Fla" in g and at.results.rated:
        warmest = theta_range(at.members[i - 1].material.group)[1]
        at.add("flank_temperature", g.theta_Fla, warmest, i, max(warmest - ROOM, 20.0))
    if "delta_W" in g:
        at.add("wear", g.delta_W, at.defaults.plastics.delta_Wmax * at.results.mesh.m_n, i)


def _together(at: _Stage) -> None:
    """What both gears are checked for together: deflection, scuffing, micropitting."""
    m, defaults = at.results.mesh, at.defaults
    if "lambda_t" in m and at.results.rated:
        at.add("tip_deflection", m.lambda_t, GREATEST_DEFLECTION * m.m_n)
    if "S_B" in m:
        at.add("scuffing_flash", _no_more(m.S_B), defaults.S_Bmin)
        at.add("scuffing_integral", _no_more(m.S_int), defaults.S_intmin)
    if "S_lambda" in m:
        at.add("micropitting", _no_more(m.S_lambda), defaults.S_lambda_min)


def _mesh(at: _Stage) -> None:
    """Contact ratio and plays."""
    m, defaults = at.results.mesh, at.defaults
    fine = 0.02 * m.m_n
    small = np.maximum(defaults.j_min, fine) if np.ndim(fine) else max(defaults.j_min, fine)
    if "c_tip" in m:
        at.add("tips_beyond_mesh", m.c_tip, 0.0, scale=FORM_SCALE * m.m_n)
    at.add("eps_alpha", m.eps_alpha, defaults.eps_alpha_min)
    at.add("backlash", m.j_wt_min, defaults.j_min, scale=small)
    if defaults.c_proc > 0:
        at.add("process_clearance", m.j_bn_min, defaults.c_proc)
    if "j_op_min" in m:
        at.add("backlash_in_service", m.j_op_min, 0.0, scale=small)


def train_checks(values: TrainValues, train: Train) -> list[Check]:
    """Checks of the whole train: its ratio against the wanted one, and the oil's temperature where its losses are
    counted and its housing is known."""
    result = []
    duty, at = train.duty, train.losses
    if duty.u_wanted is not None and "du" in values:
        result.append(ratio_check(values.du, duty.u_tol))
    if at.theta_max is not None and at.A_h is not None and at.counted == "all":
        found_at = as_float(values.get("theta_bal", np.nan))
        warm = where(np.isnan(found_at), HOTTEST, found_at)
        theta: Array = warm if warm.ndim else float(warm)
        result.append(make_check("oil_temperature", theta, at.theta_max, scale=at.theta_max - at.theta_air))
    return result


def ratio_check(du: Array, u_tol: float) -> Check:
    """The check of the ratio against the wanted one; both in %, the margin by the amount of the deviation."""
    return make_check("ratio", du, u_tol, measured=abs(du), scale=max(u_tol, 0.01))
