"""Every check of a stage and of the train, as value against limit."""

from __future__ import annotations

from cooper.document.models import Defaults, Duty, Gear
from cooper.rating.plastics import GREATEST_DEFLECTION
from cooper.results.result_tree import Check, StageResults
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
    if stage.rack:
        return "pinion" if i == 1 else "rack"
    if stage.internal:
        return "pinion" if i == 1 else "ring"
    smaller = 1 if stage.gears[0].z <= stage.gears[1].z else 2
    return GEAR_WORDS[0] if i == smaller else GEAR_WORDS[1]


def at_least(value: float, limit: float, scale: float | None = None) -> float:
    """Relative margin of a value that must reach a limit; a limit of zero is measured on ``scale``."""
    return (value - limit) / (scale or limit)


def stage_checks(k: int, s: StageResults, defaults: Defaults, members: tuple[Gear, Gear]) -> list[Check]:
    """All checks of one pair; ``members`` are its gears as they stand in the results."""
    m_n = s.mesh.m_n
    checks = []

    def add(
        symbol: str, i: int | None, label: str, value: float, limit: float, scale: float | None, means: str
    ) -> None:
        margin = at_least(value, limit, scale)
        checks.append(Check(symbol, i, k, label, value, limit, "at least", margin, means))

    by_agma = defaults.method.startswith("ANSI") and "S_HA" in s.gears[0]
    for i, g in enumerate(s.gears, 1):
        word = gear_word(s, i)
        by_iso = [f"{s_}eq" if f"{s_}eq" in g else s_ for s_ in ("S_F", "S_H")]
        # AGMA has no bending number of internal teeth.
        root, flank = (f"{s_}A" if by_agma and f"{s_}A" in g else iso for s_, iso in zip(("S_F", "S_H"), by_iso, strict=True))
        # What a gear asks for itself goes before what its stage or the train asks for.
        asks = defaults.plastics if is_plastic(members[i - 1].material.group) else defaults
        S_Fmin, S_Hmin = members[i - 1].S_Fmin or asks.S_Fmin, members[i - 1].S_Hmin or asks.S_Hmin
        S_Fst, S_Hst = defaults.S_Fstmin or S_Fmin, defaults.S_Hstmin or S_Hmin
        if s.rated:
            add(root, i, f"tooth root, {word}" + (", spectrum" if root.endswith("eq") else ""), min(g[root], MOST), S_Fmin, None,
                f"teeth of the {word} would break at the root before the required life")  # fmt: skip
            add(flank, i, f"flank, {word}" + (", spectrum" if flank.endswith("eq") else ""), min(g[flank], MOST), S_Hmin, None,
                f"flanks of the {word} would pit before the required life")  # fmt: skip
            add("S_Fst", i, f"root, greatest load, {word}", g.S_Fst, S_Fst, None,
                f"teeth of the {word} would bend or crack under the greatest load")  # fmt: skip
            add("S_Hst", i, f"flank, greatest load, {word}", g.S_Hst, S_Hst, None,
                f"flanks of the {word} would be indented under the greatest load")  # fmt: skip
        add("s_anE", i, f"tip land, {word}", g.s_anE, defaults.s_an_min * m_n, m_n * max(defaults.s_an_min, 0.1),
            f"the tip of the {word} is too narrow: it hardens through and breaks away")  # fmt: skip
        add("c", i, f"tip clearance, {word}", g.c, defaults.c_min * m_n, m_n * max(defaults.c_min, 0.05),
            f"tips of the {word} come too near the mate's root: alter the tip diameter or the tool's depth")  # fmt: skip
        if not g.undercut:
            add("c_F", i, f"flank reach, {word}", g.c_F, 0.0, FORM_SCALE * m_n,
                f"the mate's tip meets the {word} below the end of its involute, in the fillet: it will jam or wear; shorten the mate's tip (d_a, chamfer), give more shift, or take a tool that cuts deeper")  # fmt: skip
        if "CHD_c" in g and s.rated:
            add("CHD", i, f"case depth, {word}", g.CHD, g.CHD_c, None,
                f"the flanks of the {word} would crack from below the case: a deeper case, or less pressure")  # fmt: skip
        if "theta_Fla" in g and s.rated:
            warmest = theta_range(members[i - 1].material.group)[1]
            checks.append(Check("theta_Fla", i, k, f"warmth of the flanks, {word}", g.theta_Fla, warmest, "at most", (warmest - g.theta_Fla) / max(warmest - ROOM, 20.0),
                                f"teeth of the {word} soften and melt: less load or speed, wider gears, grease, a steel mate, a more open housing"))  # fmt: skip
        if "delta_W" in g:
            most = defaults.plastics.delta_Wmax * m_n
            checks.append(Check("delta_W", i, k, f"wear, {word}", g.delta_W, most, "at most", 1 - g.delta_W / most,
                                f"flanks of the {word} wear thin before the required life: grease, a smoother or harder mate, wider gears"))  # fmt: skip
    if "lambda_t" in s.mesh and s.rated:
        most = GREATEST_DEFLECTION * m_n
        checks.append(Check("lambda_t", None, k, "deflection of the tips", s.mesh.lambda_t, most, "at most", 1 - s.mesh.lambda_t / most,
                            "the teeth bend so far that the next ones meet edge on: wider gears, larger module, stiffer or cooler plastic"))  # fmt: skip
    if "S_B" in s.mesh:
        add("S_B", None, "scuffing, flash temperature", min(s.mesh.S_B, MOST), defaults.S_Bmin, None,
            "the oil film breaks where the teeth are hottest and the flanks tear: thicker or tougher oil, finer teeth, less sliding")  # fmt: skip
        add("S_int", None, "scuffing, integral temperature", min(s.mesh.S_int, MOST), defaults.S_intmin, None,
            "the flanks run hot over the whole mesh and scuff: thicker or tougher oil, smoother flanks, less sliding")  # fmt: skip
    if "S_lambda" in s.mesh:
        add("S_lambda", None, "micropitting", min(s.mesh.S_lambda, MOST), defaults.S_lambda_min, None,
            "the film is thinner than the roughness bears and the flanks turn grey and wear: smoother flanks, thicker or cooler oil, an oil of a higher test stage")  # fmt: skip
    if s.internal:
        add("c_tip", None, "tips beyond the mesh", s.mesh.c_tip, 0.0, FORM_SCALE * m_n,
            "the tips of pinion and ring run into each other beyond the mesh: shorten the ring's teeth, use fewer pinion "
            "teeth or more shift")  # fmt: skip
    add("eps_alpha", None, "profile contact ratio", s.mesh.eps_alpha, defaults.eps_alpha_min, None,
        "too few teeth share the load: rough running, load taken over at the tip; more teeth, less shift or taller teeth help")  # fmt: skip
    add("j_wt_min", None, "least backlash", s.mesh.j_wt_min, defaults.j_min, max(defaults.j_min, 0.02 * m_n),
        "at the thickest teeth and the nearest centres the flanks jam; thin the teeth (E_sns) or allow the centres more")  # fmt: skip
    if defaults.c_proc > 0:
        add("j_bn_min", None, "process clearance", s.mesh.j_bn_min, defaults.c_proc, None,
            "the flanks come out of the process fused or jammed: thin the teeth or move the centres apart")  # fmt: skip
    if "j_op_min" in s.mesh:
        add("j_op_min", None, "least backlash in service", s.mesh.j_op_min, 0.0, max(defaults.j_min, 0.02 * m_n),
            "with run-out and at service temperature the flanks jam: thin the teeth, widen the centres, or keep gears and "
            "housing at like temperatures")  # fmt: skip
    return checks


def train_checks(values: TrainValues, duty: Duty) -> list[Check]:
    """Checks of the whole train: its ratio against the wanted one."""
    if duty.u_wanted is None or "du" not in values:
        return []
    off = abs(values.du)
    margin = (duty.u_tol - off) / max(duty.u_tol, 0.01)
    return [
        Check("du", None, None, "ratio against wanted", values.du, duty.u_tol, "at most", margin,
              "the output turns faster or slower than wanted")
    ]  # fmt: skip
