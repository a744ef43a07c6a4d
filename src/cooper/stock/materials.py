"""Gear materials: strength numbers and the coefficients that the rating needs of a material group."""

from __future__ import annotations

from functools import cache
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Loose as Array
from cooper.arrays import Loose as Real
from cooper.arrays import as_float
from cooper.stock.files import load


class PlasticLaw(Struct, frozen=True):
    """How a plastic's numbers go with its temperature: ``root`` and ``flank`` as (b0, b1, b2, g0, g1, g2, p, q) of
    the data file, ``E`` the modulus as [[degrees C …], [MPa …]]."""

    root: Array
    flank: Array
    E: Array


class MaterialNumbers(Struct, frozen=True):
    """What the rating needs of the material of one gear, as plain numbers that may be arrays over designs.

    Stresses in MPa, density in kg/m3, ``rho_slip`` in mm. Life curves as log-log polylines: ``Z_N``, ``Y_N`` the cycles
    and factors of three corners each, from static strength to the reference life. ``E`` is that of the flanks and
    ``E_root`` (None: the same) that of the teeth as a whole, which plastics have at another temperature.
    """

    sigma_Hlim: Array
    sigma_Flim: Array
    E: Array
    nu: Array
    HB: Array
    surface_hardened: Array
    running_in: Array
    expansion: Array
    density: Array
    price_index: Array
    rho_slip: Array
    Z_N: Array
    Z_N_pitting: Array
    Y_N: Array
    notch_k: Array
    notch_sigma: Array
    notch_a: Array
    notch_b: Array
    R_p02: Array
    surface_a: Array
    surface_b: Array
    surface_n: Array
    surface_smooth: Array
    size_a: Array
    size_b: Array
    size_least: Array
    mean_stress_a: Array = 0.3
    mean_stress_b: Array = 0.0
    mean_stress_static: Array = 0.3
    steel: Array = 0.0
    in_standard: Array = 1.0
    plastic: Array = 0.0
    root_life: Array = (0.0, 0.0, 0.0)
    flank_life: Array = (0.0, 0.0, 0.0)
    E_root: Array | None = None
    law: PlasticLaw | None = None


GRADES = ("ML", "MQ", "ME")
RUNNING_IN = ("through", "cast", "hard", "none")
"""How a group runs in, in the order of `cooper.rating.iso6336.running_in.KINDS`."""
NEUTRAL: dict[str, Any] = {
    "rho_slip": [[0, 0.0]], "rho_slip_over": None, "notch_static": {"a": 0.0, "b": 1.0},
    "surface": {"a": 1.0, "b": 0.0, "n": 1.0, "smooth": 1.0},
    "size": {"a": 1.0, "b": 0.0, "least": 1.0},
    "Z_NT": [[1e4, 1.0], [1e8, 1.0]], "Z_NT_pitting": [[1e4, 1.0], [1e8, 1.0]], "Y_NT": [[1e4, 1.0], [1e8, 1.0]],
}  # fmt: skip
"""What a group outside ISO 6336-5 has no influence factors for: they are 1 there, which the notes on the results
say."""
TYPICAL = "typical"
"""The one grade of a group outside ISO 6336-5."""


@cache
def groups() -> dict[str, dict[str, Any]]:
    """The material groups: first those of ISO 6336-5 by its letters, then the others, marked by their ``family``."""
    others = {name: {**NEUTRAL, **row} for name, row in load("materials_other")["groups"].items()}
    return {**load("materials")["groups"], **others}


def is_standard(group: str) -> bool:
    """Whether a group is one of ISO 6336-5."""
    return "family" not in groups()[group]


def is_hard(group: str) -> bool:
    """Whether the flanks of a group are surface hardened."""
    return bool(groups()[group]["surface_hardened"])


def is_plastic(group: str) -> bool:
    """Whether a group's strength depends on temperature and cycles by VDI 2736-2."""
    return bool(groups()[group].get("family") == "plastic")


def is_printed(group: str) -> bool:
    """Whether a group is a plastic as printing makes it, whose grades say how the layers lie to the tension at the
    root."""
    return bool(groups()[group].get("printed", False))


def theta_range(group: str) -> tuple[float, float]:
    """Temperatures of the teeth (degrees C) for which the numbers of a plastic hold.

    >>> theta_range("POM")
    (-20, 100)
    """
    low, high = groups()[group]["theta_range"]
    return low, high


def hardness_ranges(group: str, grade: str) -> tuple[tuple[float, float], tuple[float, float]]:
    """Hardness ranges for which the strength numbers of flank and root are given, on the group's own scale.

    >>> hardness_ranges("V carbon", "MQ")
    ((135, 210), (115, 215))
    """
    row = groups()[group]["grades"][grade]
    (h_low, h_high), (f_low, f_high) = row["H_range"], row["F_range"]
    return (h_low, h_high), (f_low, f_high)


def hardness_range(group: str, grade: str) -> tuple[float, float]:
    """Hardness range for which both strength numbers of a grade are given, on the group's own scale.

    >>> hardness_range("V", "MQ")
    (200, 360)
    """
    flank, root = hardness_ranges(group, grade)
    return max(flank[0], root[0]), min(flank[1], root[1])


def material_numbers(
    group: str,
    grade: str,
    hardness: Real,
    R_p02: Real | None = None,
    theta: float = 20.0,
    core: str = "25 HRC",
    peened: bool = False,
) -> MaterialNumbers:
    """Numbers of a material at a hardness (array allowed) on the group's own scale. ISO 6336-5:2016.

    Outside the hardness range of a strength number its nearer end is taken, for flank and root apart. ``R_p02`` (MPa)
    is the yield strength for the notch sensitivity; None takes the estimate of the data file. ``theta`` is the
    temperature of the teeth (degrees C), which plastics depend on: their ``root_life`` and ``flank_life`` are (base,
    gain, exponent) of sigma_lim = base + gain N^-exponent there, and 0 for metals, whose ``plastic`` is 0.

    ``core`` is the core of case-hardened teeth of grade MQ (25 HRC, 30 HRC, or 25 HRC with the lower hardenability),
    ``peened`` whether their roots are shot peened under control.

    >>> m = material_numbers("V", "MQ", 300)
    >>> round(float(m.sigma_Hlim), 1), round(float(m.sigma_Flim), 1)
    (766.9, 314.5)
    """
    data = groups()[group]
    row = data["grades"][grade]
    hardness = as_float(hardness)
    plastic = is_plastic(group)
    (a_h, b_h), (a_f, b_f) = ((0.0, 1.0), (0.0, 1.0)) if plastic else (row["H"], row["F"])
    yield_strength = as_float(R_p02 if R_p02 is not None else estimated_R_p02(group, hardness))
    over = {"R_p02": yield_strength, "R_m": data.get("R_m_per_hardness", 0) * hardness, None: hardness}
    xs, ys = np.array(data["rho_slip"]).T
    notch, surface, size = data["notch_static"], data["surface"], data["size"]
    values = {
        "sigma_Hlim": np.minimum(a_h * np.clip(hardness, *row["H_range"]) + b_h, row.get("H_cap", np.inf)),
        "sigma_Flim": np.minimum(a_f * np.clip(hardness, *row["F_range"]) + b_f, row.get("F_cap", np.inf)),
        "HB": hardness * data["HB_per_hardness"] if data["HB_per_hardness"] else np.full_like(hardness, np.nan),
        "rho_slip": np.interp(over[data["rho_slip_over"]], xs, ys),
        "notch_k": notch.get("k", 0.0),
        "notch_sigma": notch.get("sigma", 1.0),
        "notch_a": notch.get("a", 0.0),
        "notch_b": notch.get("b", 0.0),
        "R_p02": yield_strength,
        "surface_hardened": float(data["surface_hardened"]),
        "running_in": float(RUNNING_IN.index(data["running_in"])),
        **{f"surface_{k}": surface[k] for k in ("a", "b", "n", "smooth")},
        **{f"size_{k}": size[k] for k in ("a", "b", "least")},
        **{k: data[k] for k in ("E", "nu", "density", "price_index", "expansion")},
        "mean_stress_a": data["mean_stress"][0],
        "mean_stress_b": data["mean_stress"][1],
        # Beyond ISO 6336-5 no static value is known: the one for endurance, which is the lower one, stands for both.
        "mean_stress_static": data.get("mean_stress_static", data["mean_stress"][0]),
        "steel": float(data.get("steel", False)),
        "in_standard": float(is_standard(group)),
        "plastic": float(plastic),
        "root_life": np.zeros(3),
        "flank_life": np.zeros(3),
    }
    if grade == data.get("core", {}).get("grade"):
        values["sigma_Flim"] = np.full_like(hardness, data["core"][core])
    if peened and "peened" in data:
        by = data["peened"]
        values["sigma_Flim"] = values["sigma_Flim"] * by[grade]
        values |= {
            "mean_stress_a": by["mean_stress"],
            "mean_stress_b": 0.0,
            "mean_stress_static": by["mean_stress_static"],
        }
    corners = {"Z_N": data["Z_NT"], "Z_N_pitting": data["Z_NT_pitting"], "Y_N": data["Y_NT"]}
    plain: dict[str, Any] = {k: as_float(v) for k, v in values.items()}
    plain |= {k: _three_corners(v) for k, v in corners.items()}
    result = MaterialNumbers(**plain)
    if not plastic:
        return result
    # Pulled across printed layers the bond between them breaks first.
    root = _law_row(data["root"]) * np.array([row.get("bond", 1.0)] * 6 + [1.0, 1.0])
    law = PlasticLaw(root, _law_row(data["flank"]), np.array(data["E_over_theta"], dtype=float).T)
    return at_temperature(replace(result, law=law), theta, theta)


def at_temperature(numbers: MaterialNumbers, theta_flank: Real, theta_root: Real) -> MaterialNumbers:
    """The numbers of a plastic whose flanks and roots have these temperatures (degrees C, arrays allowed).

    >>> m = at_temperature(material_numbers("POM", "typical", 80), 80.0, 60.0)
    >>> float(m.E), float(m.E_root)
    (1200.0, 1700.0)
    """
    law = numbers.law
    if law is None:
        return numbers
    flank, root = _life_at(law.flank, theta_flank), _life_at(law.root, theta_root)
    return replace(
        numbers,
        E=np.interp(theta_flank, *law.E),
        E_root=np.interp(theta_root, *law.E),
        flank_life=flank,
        root_life=root,
        sigma_Hlim=_endurance(flank),
        sigma_Flim=_endurance(root),
    )


def constant_law(value: float) -> Array:
    """The law of a strength that is one for all temperatures and cycles.

    >>> float(plastic_strength(_life_at(constant_law(30.0), 80.0), 1e5))
    30.0
    """
    return np.array([value, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 1.0])


PLASTIC_REFERENCE = 1e8
"""Cycles at which a plastic's strength number is stated where no life is in play."""


def _law_row(row: dict[str, Any]) -> Array:
    return np.array([*row["b"], *row["g"], row["p"], row["q"]], dtype=float)


def _life_at(law: Array, theta: Real) -> Array:
    """(base, gain, exponent) of a plastic's strength at a temperature; the base is kept above 1 MPa."""
    b_0, b_1, b_2, g_0, g_1, g_2, p, q = law
    theta = as_float(theta)
    warm = np.maximum(theta, 0.0)
    base = np.maximum(b_0 + b_1 * theta + b_2 * theta * warm, 1.0)
    gain = np.maximum(g_0 + g_1 * warm**p + g_2 * warm**2, 0.0)
    return np.array([base, gain, np.broadcast_to(q, np.shape(base))])


def plastic_strength(life: Real, N_L: Real) -> Array:
    """Strength number of a plastic at N_L cycles (from 1e4 on), MPa; ``life`` as in `MaterialNumbers`. VDI 2736-2.

    >>> round(float(plastic_strength(material_numbers("POM", "typical", 80, theta=60.0).root_life, 1e6)), 2)
    42.24
    """
    base, gain, exponent = as_float(life)
    return base + gain * np.maximum(as_float(N_L), 1e4) ** -exponent


def _endurance(life: Array) -> Array:
    return plastic_strength(life, PLASTIC_REFERENCE)


def estimated_R_p02(group: str, hardness: Real) -> Array:
    """Estimate of the yield strength from hardness (MPa); NaN where the group needs none.

    >>> float(estimated_R_p02("V", 300))
    768.0
    """
    factor = groups()[group].get("R_p02_per_hardness")
    hardness = as_float(hardness)
    return hardness * factor if factor else np.full_like(hardness, np.nan)


def _three_corners(points: list[list[float]]) -> Array:
    """Corners of a life curve as [[N...], [factor...]]; two corners get a third on the line between them."""
    curve = np.array(points, dtype=float)
    if len(curve) == 2:
        curve = np.array([curve[0], np.sqrt(curve[0] * curve[1]), curve[1]])
    return curve.T
