"""Face and transverse load factors. ISO 6336-1:2019, 7 (method C of K_Hbeta) and 8 (method B of K_Halpha)."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where

ARRANGEMENTS = {
    "a": (0.48, 0.8, "inside, driven from afar"),
    "b": (-0.48, -0.8, "inside, driven nearby"),
    "c": (1.33, 1.33, "overhung"),
    "d": (-0.36, -0.6, "inside, drive passes on"),
    "e": (-0.6, -1.0, "inside, second mesh"),
}
"""Factor K' by the pinion's place on its shaft: with and without stiffening by the pinion's body, and in words."""
STIFFENED = 1.15
"""Ratio of pinion and shaft diameter from which the pinion's body stiffens the shaft."""
MODIFICATIONS = {
    "none": (1.0, 1.0, "no helix modification"),
    "crowned": (0.5, 0.5, "central crowning for the deformation and for manufacture"),
    "crowned for manufacture": (1.0, 0.5, "central crowning for the deviations of manufacture alone"),
    "corrected": (0.1, 1.0, "helix correction matched to the torque analysed"),
    "corrected and crowned": (0.1, 0.5, "helix correction matched to the torque analysed, and central crowning"),
    "end relief": (0.7, 0.7, "end relief of suitable height"),
}
"""Factors B_1 of the elastic and B_2 of the manufacturing share, by helix modification."""


def pinion_factor(K: Real, l: Real, s: Real, d_1: Real, d_sh: Real, b: Real, double: Real = False) -> Array:
    """The bracket of f_sh: bending and twisting of the pinion times (b/d_1)^2.

    Parameters
    ----------
    K : Real
        Factor K' by the place of the pinion.
    l : Real
        Bearing span (mm).
    s : Real
        Distance of the pinion's middle from mid-span (mm).
    d_1 : Real
        Reference diameter of the pinion (mm).
    d_sh : Real
        Shaft diameter (mm).
    b : Real
        Face width (mm).
    double : Real
        Whether it is a double helix, b one half of it.

    Returns
    -------
    Array
        The bracket.

    References
    ----------
    ISO 6336-1:2019, 7.

    Examples
    --------
    >>> round(float(pinion_factor(0.8, 100.0, 10.0, 40.0, 30.0, 40.0)), 3)
    2.58
    """
    d_1 = as_float(d_1)
    bend = as_float(K) * as_float(l) * s / d_1**2 * (d_1 / as_float(d_sh)) ** 4
    first = where(double, 1.5, 1.0)
    return as_float((np.abs(first + bend - 0.3) + 0.3) * (as_float(b) / d_1) ** 2)


def planet_factor(N: Real, d_s: Real, K: Real, l: Real, s: Real, d_p: Real, d_pin: Real, b: Real) -> Array:
    """The bracket of f_sh of a mesh among planets: the sun's twist under all of them, and the slope of a pin that the
    planet does not sit on in its middle.

    Parameters
    ----------
    N : Real
        Number of planets.
    d_s : Real
        Diameter of the sun (mm), infinite for a ring, which does not twist.
    K : Real
        Factor K' by the place of the planet.
    l : Real
        Span of the pin (mm).
    s : Real
        Distance of the planet's middle from mid-span (mm).
    d_p : Real
        Diameter of the planet (mm).
    d_pin : Real
        Diameter of the pin (mm).
    b : Real
        Face width (mm).

    Returns
    -------
    Array
        The bracket.

    Notes
    -----
    The forces on a sun between planets cancel, so that it does not bend; of the first term 1 of `pinion_factor` 0.7 is
    twist and 0.3 bending: 4/(pi G) (b/d)^2 = 0.0161 um mm/N of the 0.023. Both meshes of a planet load its pin.

    References
    ----------
    ISO 6336-1:2019, 7, whose bracket it continues for planets by statics.

    Examples
    --------
    >>> round(float(planet_factor(3, 40.0, 0.8, 60.0, 0.0, 50.0, 15.0, 20.0)), 3)
    0.525
    """
    d_p = as_float(d_p)
    lean = 2 * np.abs(as_float(K) * as_float(l) * s) / d_p**2 * (d_p / as_float(d_pin)) ** 4 * (as_float(b) / d_p) ** 2
    return as_float(0.7 * as_float(N) * (as_float(b) / as_float(d_s)) ** 2 + lean)


def shaft_deflection(line_load: Real, factor: Real, double: Real = False) -> Array:
    """Equivalent misalignment f_sh from the pinion's deflection.

    Parameters
    ----------
    line_load : Real
        Line load F_m/b = F_t K_A K_V/b (N/mm).
    factor : Real
        The bracket, by `pinion_factor` or `planet_factor`.
    double : Real
        Whether it is a double helix.

    Returns
    -------
    Array
        f_sh (um).

    References
    ----------
    ISO 6336-1:2019, 7.

    Examples
    --------
    >>> round(float(shaft_deflection(200.0, 1.0)), 2)
    4.6
    """
    return as_float(line_load) * where(double, 0.046, 0.023) * factor


def initial_misalignment(f_sh: Real, f_ma: Real, B_1: Real, B_2: Real) -> Array:
    """Initial equivalent misalignment F_betax = 1.33 B_1 f_sh + B_2 f_ma.

    Parameters
    ----------
    f_sh : Real
        Misalignment from deflection (um).
    f_ma : Real
        Misalignment of manufacture (um).
    B_1 : Real
        Factor by the correction of the helix.
    B_2 : Real
        Factor by the correction of the helix.

    Returns
    -------
    Array
        F_betax (um).

    References
    ----------
    ISO 6336-1:2019, 7.
    """
    return 1.33 * as_float(B_1) * f_sh + as_float(B_2) * f_ma


def least_misalignment(line_load: Real, f_Hbeta: Real) -> Array:
    """Least initial equivalent misalignment that counts.

    Parameters
    ----------
    line_load : Real
        Line load F_m/b (N/mm).
    f_Hbeta : Real
        The larger helix slope tolerance of both gears (um).

    Returns
    -------
    Array
        F_betax (um).

    Notes
    -----
    The greater of 0.005 F_m/b and 0.5 f_Hbeta.

    References
    ----------
    ISO 6336-1:2019, 7.

    Examples
    --------
    >>> float(least_misalignment(400.0, 3.0)), float(least_misalignment(400.0, 10.0))
    (2.0, 5.0)
    """
    return np.maximum(0.005 * as_float(line_load), 0.5 * as_float(f_Hbeta))


def face_load_factor(F_betay: Real, c_gamma_beta: Real, line_load: Real) -> Array:
    """Face load factor K_Hbeta from the misalignment after running-in.

    Parameters
    ----------
    F_betay : Real
        Misalignment after running-in (um).
    c_gamma_beta : Real
        Mesh stiffness (N/(mm um)).
    line_load : Real
        Line load F_m/b (N/mm).

    Returns
    -------
    Array
        K_Hbeta.

    Notes
    -----
    1 + F_betay c_gamma_beta/(2 F_m/b) up to 2, where the load lies on the whole width, sqrt(2 F_betay
    c_gamma_beta/(F_m/b)) beyond, where it lies on a part of it.

    References
    ----------
    ISO 6336-1:2019, 7.

    Examples
    --------
    >>> [round(float(face_load_factor(F, 15.0, 200.0)), 3) for F in (0.0, 10.0, 60.0)]
    [1.0, 1.375, 3.0]
    """
    lean = as_float(F_betay) * c_gamma_beta / (2 * as_float(line_load))
    return as_float(where(lean < 1, 1 + lean, 2 * np.sqrt(np.maximum(lean, 0))))


def transverse_load_factor(
    eps_gamma: Real, eps_alpha: Real, Z_eps: Real, c_gamma_alpha: Real, f_pbeff: Real, line_load: Real
) -> tuple[Array, Array]:
    """Transverse load factors K_Halpha and K_Falpha.

    Parameters
    ----------
    eps_gamma : Real
        Total contact ratio.
    eps_alpha : Real
        Transverse contact ratio.
    Z_eps : Real
        Contact ratio factor.
    c_gamma_alpha : Real
        Mesh stiffness (N/(mm um)).
    f_pbeff : Real
        Base pitch deviation after running-in (um).
    line_load : Real
        Line load F_tH/b = F_t K_A K_V K_Hbeta/b (N/mm).

    Returns
    -------
    tuple[Array, Array]
        K_Halpha and K_Falpha.

    Notes
    -----
    Between 1 and eps_gamma/(eps_alpha Z_eps^2), for the root eps_gamma/(0.25 eps_alpha + 0.75): all the load on one
    pair.

    References
    ----------
    ISO 6336-1:2019, 8.

    Examples
    --------
    >>> [round(float(K), 3) for K in transverse_load_factor(1.6, 1.6, 0.8944, 20.0, 6.0, 250.0)]
    [1.0, 1.0]
    """
    eps = as_float(eps_gamma)
    uneven = 0.4 * as_float(c_gamma_alpha) * f_pbeff / as_float(line_load)
    few = eps / 2 * (0.9 + uneven)
    many = 0.9 + np.sqrt(2 * np.maximum(eps - 1, 0) / eps) * uneven
    K = where(eps <= 2, few, many)
    contact = clip(K, 1.0, np.maximum(eps / (as_float(eps_alpha) * as_float(Z_eps) ** 2), 1.0))
    return contact, clip(K, 1.0, np.maximum(eps / (0.25 * as_float(eps_alpha) + 0.75), 1.0))
