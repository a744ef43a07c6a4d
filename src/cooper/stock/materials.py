"""Gear materials: strength numbers and the coefficients that the rating needs of a material group."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

import numpy as np

from cooper.arrays import Array, Real
from cooper.stock.files import load


@dataclass(frozen=True)
class MaterialNumbers:
    """What the rating needs of the material of one gear, as plain numbers that may be arrays over designs.

    Stresses in MPa, density in kg/m3, ``rho_slip`` in mm. Life curves as log-log polylines: ``Z_N``, ``Y_N`` the cycles
    and factors of three corners each, from static strength to the reference life.
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
    flank_size_a: Array
    flank_size_b: Array
    flank_size_least: Array


GRADES = ("ML", "MQ", "ME")
RUNNING_IN = ("through", "cast", "hard")
"""How a group runs in, in the order of `cooper.rating.iso6336.running_in.KINDS`."""


@cache
def groups() -> dict[str, dict[str, Any]]:
    """The material groups by their letters in ISO 6336-5, as in the data file."""
    return load("materials")["groups"]


def hardness_range(group: str, grade: str) -> tuple[float, float]:
    """Hardness range for which both strength numbers of a grade are given, on the group's own scale.

    >>> hardness_range("V", "MQ")
    (200, 360)
    """
    row = groups()[group]["grades"][grade]
    return max(row["H_range"][0], row["F_range"][0]), min(row["H_range"][1], row["F_range"][1])


def material_numbers(group: str, grade: str, hardness: Real, R_p02: Real | None = None) -> MaterialNumbers:
    """Numbers of a material at a hardness (array allowed) on the group's own scale. ISO 6336-5:2016.

    ``R_p02`` (MPa) is the yield strength for the notch sensitivity; None takes the estimate of the data file.

    >>> m = material_numbers("V", "MQ", 300)
    >>> round(float(m.sigma_Hlim), 1), round(float(m.sigma_Flim), 1)
    (766.9, 314.5)
    """
    data = groups()[group]
    row = data["grades"][grade]
    hardness = np.asarray(hardness, dtype=float)
    (a_h, b_h), (a_f, b_f) = row["H"], row["F"]
    yield_strength = np.asarray(R_p02 if R_p02 is not None else estimated_R_p02(group, hardness), dtype=float)
    over = {"R_p02": yield_strength, "R_m": data.get("R_m_per_hardness", 0) * hardness, None: hardness}
    xs, ys = np.array(data["rho_slip"]).T
    notch, surface, size = data["notch_static"], data["surface"], data["size"]
    values = {
        "sigma_Hlim": a_h * hardness + b_h,
        "sigma_Flim": a_f * hardness + b_f,
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
        **{f"flank_size_{k}": data["size_contact"][k] for k in ("a", "b", "least")},
        **{k: data[k] for k in ("E", "nu", "density", "price_index", "expansion")},
    }
    corners = {"Z_N": data["Z_NT"], "Z_N_pitting": data["Z_NT_pitting"], "Y_N": data["Y_NT"]}
    return MaterialNumbers(
        **{k: np.asarray(v, dtype=float) for k, v in values.items()},
        **{k: _three_corners(v) for k, v in corners.items()},
    )


def estimated_R_p02(group: str, hardness: Real) -> Array:
    """Estimate of the yield strength from hardness (MPa); NaN where the group needs none.

    >>> float(estimated_R_p02("V", 300))
    768.0
    """
    factor = groups()[group].get("R_p02_per_hardness")
    hardness = np.asarray(hardness, dtype=float)
    return hardness * factor if factor else np.full_like(hardness, np.nan)


def _three_corners(points: list[list[float]]) -> Array:
    """Corners of a life curve as [[N...], [factor...]]; two corners get a third on the line between them."""
    curve = np.array(points, dtype=float)
    if len(curve) == 2:
        curve = np.array([curve[0], np.sqrt(curve[0] * curve[1]), curve[1]])
    return curve.T
