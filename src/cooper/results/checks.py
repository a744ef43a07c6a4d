"""Every check of a stage and of the train, as value against limit; of arrays of designs in the same way."""

from __future__ import annotations

import numpy as np
from msgspec import Struct, field

from cooper.arrays import Mixed as Array
from cooper.arrays import either, everywhere, real
from cooper.document.duty import Defaults
from cooper.document.gear_data import Gear
from cooper.document.models import Train
from cooper.rating.plastics import GREATEST_DEFLECTION
from cooper.results.result_tree import Check, StageResults
from cooper.results.train_losses import HOTTEST
from cooper.stock.materials import is_plastic, theta_range
from cooper.values import TrainValues

GEAR_WORDS = ("pinion", "wheel")
MOST = 1e6
"""Safety that stands for any greater one, such as that under a spectrum which bears no load."""
ROOM = 20.0
"""Temperature (degrees C) from which the margin of a plastic's warmth is measured."""
FORM_SCALE = 0.2
"""Modules of form over-dimension that count as a margin of 100 %: thin below 0.02 m_n."""


def gear_word(stage: StageResults, i: int) -> str:
    """What gear i (1, 2) of a mesh is called: by its role in a set, else the smaller is the pinion."""
    if stage.roles is not None:
        return stage.roles[i - 1]
    if stage.kind.gear_words is not None:
        return stage.kind.gear_words[i - 1]
    smaller = 1 if everywhere(stage.gears[0].z <= stage.gears[1].z) else 2
    return GEAR_WORDS[0] if i == smaller else GEAR_WORDS[1]


def at_least(value: Array, limit: Array, scale: Array = None) -> Array:
    """Relative margin of a value that must reach a limit; a limit of zero is measured on ``scale``."""
    return _bounded((value - limit) / (limit if scale is None else scale))


def at_most(value: Array, limit: Array, room: Array = None) -> Array:
    """Relative margin of a value that must stay below a limit; ``room`` is what counts as a margin of 100 % (none: the limit)."""
    return _bounded((limit - value) / (limit if room is None else room))


def _bounded(margin: Array) -> Array:
    """A margin, `MOST` or `-MOST` for any beyond that, such as against a limit of next to nothing."""
    return min(max(margin, -MOST), MOST) if isinstance(margin, float) else np.clip(margin, -MOST, MOST)


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

    def least(
        self,
        symbol: str,
        label: str,
        value: Array,
        limit: Array,
        means: str,
        i: int | None = None,
        scale: Array = None,
    ) -> None:
        """A value that must reach its limit."""
        margin = at_least(value, limit, scale)
        self.found.append(Check(symbol, i, self.k, label, value, limit, "at least", margin, means))

    def most(
        self,
        symbol: str,
        label: str,
        value: Array,
        limit: Array,
        means: str,
        i: int | None = None,
        room: Array = None,
    ) -> None:
        """A value that must stay below its limit; ``room`` is what counts as a margin of 100 % (none: the limit)."""
        margin = at_most(value, limit, room)
        self.found.append(Check(symbol, i, self.k, label, value, limit, "at most", margin, means))


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
    s, g, word, defaults = at.results, at.results.gears[i - 1], gear_word(at.results, i), at.defaults
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
    under = [", spectrum" if name.endswith("eq") else "" for name in (root, flank)]
    breaks = f"teeth of the {word} would break at the root before the required life"
    at.least(root, f"tooth root, {word}{under[0]}", _no_more(g[root]), S_Fmin, breaks, i)
    pits = f"flanks of the {word} would pit before the required life"
    at.least(flank, f"flank, {word}{under[1]}", _no_more(g[flank]), S_Hmin, pits, i)
    bends = f"teeth of the {word} would bend or crack under the greatest load"
    at.least("S_Fst", f"root, greatest load, {word}", _no_more(g.S_Fst), defaults.S_Fstmin or S_Fmin, bends, i)
    dents = f"flanks of the {word} would be indented under the greatest load"
    at.least("S_Hst", f"flank, greatest load, {word}", _no_more(g.S_Hst), defaults.S_Hstmin or S_Hmin, dents, i)


def _form(at: _Stage, i: int) -> None:
    """Tip, clearance and flank of a gear."""
    g, word, defaults, m_n = at.results.gears[i - 1], gear_word(at.results, i), at.defaults, at.results.mesh.m_n
    narrow = f"the tip of the {word} is too narrow: it hardens through and breaks away"
    land = defaults.s_an_min * m_n
    at.least("s_anE", f"tip land, {word}", g.s_anE, land, narrow, i, m_n * max(defaults.s_an_min, 0.1))
    near = f"tips of the {word} come too near the mate's root: alter the tip diameter or the tool's depth"
    at.least("c", f"tip clearance, {word}", g.c, defaults.c_min * m_n, near, i, m_n * max(defaults.c_min, 0.05))
    cut = g.undercut
    if not everywhere(cut):
        jams = (
            f"the mate's tip meets the {word} below the end of its involute, in the fillet: it will jam or wear; shorten the mate's "
            "tip (d_a, chamfer), give more shift, or take a tool that cuts deeper"
        )
        # Where the tool has cut into the flank its end is no limit.
        reach = g.c_F if np.ndim(cut) == 0 else either(cut, np.inf, g.c_F)
        at.least("c_F", f"flank reach, {word}", reach, 0.0, jams, i, FORM_SCALE * m_n)


def _service(at: _Stage, i: int) -> None:
    """What only some materials are checked for: the case, the warmth, the wear."""
    g, word = at.results.gears[i - 1], gear_word(at.results, i)
    if "CHD_c" in g and at.results.rated:
        cracks = f"the flanks of the {word} would crack from below the case: a deeper case, or less pressure"
        at.least("CHD", f"case depth, {word}", g.CHD, g.CHD_c, cracks, i)
    if "S_FF" in g and at.results.rated:
        breaks = (
            f"the flanks of the {word} would break from below the case: a deeper case, a harder core, or less pressure"
        )
        at.least("S_FF", f"flank fracture, {word}", _no_more(g.S_FF), at.defaults.S_FFmin, breaks, i)
    if "theta_Fla" in g and at.results.rated:
        warmest = theta_range(at.members[i - 1].material.group)[1]
        melts = f"teeth of the {word} soften and melt: less load or speed, wider gears, grease, a steel mate, a more open housing"
        at.most("theta_Fla", f"warmth of the flanks, {word}", g.theta_Fla, warmest, melts, i, max(warmest - ROOM, 20.0))
    if "delta_W" in g:
        wears = (
            f"flanks of the {word} wear thin before the required life: grease, a smoother or harder mate, wider gears"
        )
        limit = at.defaults.plastics.delta_Wmax * at.results.mesh.m_n
        at.most("delta_W", f"wear, {word}", g.delta_W, limit, wears, i)


def _together(at: _Stage) -> None:
    """What both gears are checked for together: deflection, scuffing, micropitting."""
    m, defaults = at.results.mesh, at.defaults
    if "lambda_t" in m and at.results.rated:
        bends = "the teeth bend so far that the next ones meet edge on: wider gears, larger module, stiffer or cooler plastic"
        at.most("lambda_t", "deflection of the tips", m.lambda_t, GREATEST_DEFLECTION * m.m_n, bends)
    if "S_B" in m:
        hottest = "the oil film breaks where the teeth are hottest and the flanks tear: thicker or tougher oil, finer teeth, less sliding"
        at.least("S_B", "scuffing, flash temperature", _no_more(m.S_B), defaults.S_Bmin, hottest)
        hot = "the flanks run hot over the whole mesh and scuff: thicker or tougher oil, smoother flanks, less sliding"
        at.least("S_int", "scuffing, integral temperature", _no_more(m.S_int), defaults.S_intmin, hot)
    if "S_lambda" in m:
        grey = (
            "the film is thinner than the roughness bears and the flanks turn grey and wear: smoother flanks, thicker or cooler "
            "oil, an oil of a higher test stage"
        )
        at.least("S_lambda", "micropitting", _no_more(m.S_lambda), defaults.S_lambda_min, grey)


def _mesh(at: _Stage) -> None:
    """Contact ratio and plays."""
    m, defaults = at.results.mesh, at.defaults
    fine = 0.02 * m.m_n
    small = np.maximum(defaults.j_min, fine) if np.ndim(fine) else max(defaults.j_min, fine)
    if "c_tip" in m:
        meets = (
            "the tips of pinion and ring run into each other beyond the mesh: shorten the ring's teeth, use fewer pinion teeth or "
            "more shift"
        )
        at.least("c_tip", "tips beyond the mesh", m.c_tip, 0.0, meets, scale=FORM_SCALE * m.m_n)
    rough = "too few teeth share the load: rough running, load taken over at the tip; more teeth, less shift or taller teeth help"
    at.least("eps_alpha", "profile contact ratio", m.eps_alpha, defaults.eps_alpha_min, rough)
    jams = (
        "at the thickest teeth and the nearest centres the flanks jam; thin the teeth (E_sns) or allow the centres more"
    )
    at.least("j_wt_min", "least backlash", m.j_wt_min, defaults.j_min, jams, scale=small)
    if defaults.c_proc > 0:
        fused = "the flanks come out of the process fused or jammed: thin the teeth or move the centres apart"
        at.least("j_bn_min", "process clearance", m.j_bn_min, defaults.c_proc, fused)
    if "j_op_min" in m:
        warm = (
            "with run-out and at service temperature the flanks jam: thin the teeth, widen the centres, or keep gears and housing at "
            "like temperatures"
        )
        at.least("j_op_min", "least backlash in service", m.j_op_min, 0.0, warm, scale=small)


def train_checks(values: TrainValues, train: Train) -> list[Check]:
    """Checks of the whole train: its ratio against the wanted one, and the oil's temperature where its losses are counted and its housing is known."""
    found = []
    duty, at = train.duty, train.losses
    if duty.u_wanted is not None and "du" in values:
        margin = at_most(abs(values.du), duty.u_tol, max(duty.u_tol, 0.01))
        slow = "the output turns faster or slower than wanted"
        found.append(Check("du", None, None, "ratio against wanted", values.du, duty.u_tol, "at most", margin, slow))
    if at.theta_max is not None and at.A_h is not None and at.counted == "all":
        hot = "the oil gets hotter than it may: fewer losses, less oil, a larger or cooled housing"
        found_at = real(values.get("theta_bal", np.nan))
        warm = either(np.isnan(found_at), HOTTEST, found_at)
        theta: Array = warm if warm.ndim else float(warm)
        margin = at_most(theta, at.theta_max, at.theta_max - at.theta_air)
        found.append(
            Check(
                "theta_bal",
                None,
                None,
                "oil temperature of the heat balance",
                theta,
                at.theta_max,
                "at most",
                margin,
                hot,
            )
        )
    return found
