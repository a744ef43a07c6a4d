"""Strength of a shaft at a section. DIN 743-1:2012, and beside it von Mises with Goodman's line.

Stresses come as arrays with a last axis of three: tension, bending, torsion (`notch_factors.LOADS`).
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, where


def size_factor_notch(d: Real) -> Array:
    """Geometric size factor K_2 of tension, bending, torsion.

    Parameters
    ----------
    d : Real
        Diameter (mm).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    1 in tension; else 1 - 0.2 lg(d / 7.5) / lg 20 between 7.5 and 150 mm, 0.8 above.

    References
    ----------
    DIN 743-2:2012, 7.2.

    Examples
    --------
    >>> [round(float(v), 4) for v in size_factor_notch(40.0)]
    [1.0, 0.8882, 0.8882]
    """
    d = as_float(d)
    K_2 = where(d > 7.5, 1 - 0.2 * np.log10(np.clip(d, 7.5, 150) / 7.5) / np.log10(20), 1.0)
    return np.stack((np.ones_like(K_2), K_2, K_2), axis=-1)


def roughness_factor(Rz: Real, sigma_B: Real) -> Array:
    """Surface factor K_F of tension, bending, torsion.

    Parameters
    ----------
    Rz : Real
        Roughness Rz (um).
    sigma_B : Real
        Tensile strength of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    K_Fsigma = 1 - 0.22 lg(Rz) (lg(sigma_B / 20) - 1), K_Ftau = 0.575 K_Fsigma + 0.425.

    References
    ----------
    DIN 743-2:2012, 7.3.

    Examples
    --------
    >>> [round(float(v), 4) for v in roughness_factor(16.0, 700.0)]
    [0.8559, 0.8559, 0.9171]
    """
    K = 1 - 0.22 * np.log10(np.maximum(Rz, 1.0)) * (np.log10(as_float(sigma_B) / 20) - 1)
    K = np.minimum(K, 1.0)
    return np.stack((K, K, 0.575 * K + 0.425), axis=-1)


def measured_notch(beta: Array, d: Real, d_measured: float = 40.0) -> Array:
    """A notch factor that was measured on a shaft of another diameter, for this one.

    Parameters
    ----------
    beta : Array
        Notch factors as measured.
    d : Real
        Diameter (mm).
    d_measured : float
        Diameter on which they were measured (mm).

    Returns
    -------
    Array
        Notch factors.

    Notes
    -----
    beta K_3(d_measured) / K_3(d), with K_3 = 1 - 0.2 lg(beta) lg(d / 7.5) / lg 20 between 7.5 and 150 mm.

    References
    ----------
    DIN 743-2:2012, 7.2.

    Examples
    --------
    >>> round(float(measured_notch(np.array(2.0), 20.0)), 4)
    1.9716
    """

    def K_3(size: Real) -> Array:
        at = np.log10(np.clip(as_float(size), 7.5, 150) / 7.5) / np.log10(20)
        return as_float(1 - 0.2 * np.log10(beta) * (at[..., None] if np.ndim(at) else at))

    return as_float(beta * K_3(d_measured) / K_3(d))


class ShaftMaterial(Struct, frozen=True, kw_only=True):
    """Strength of a shaft's material in the part, MPa: ``sigma_B``, ``sigma_S`` at its diameter; ``sigma_W`` fatigue
    strength of the polished bar in tension, bending, torsion, already multiplied by K_1."""

    sigma_B: Real
    sigma_S: Real
    sigma_W: Array
    hard: bool = False


def notch_total(beta: Array, d: Real, Rz: Real, sigma_B: Real, K_V: Real = 1.0, Rz_measured: float = 0.0) -> Array:
    """Total influence of notch, size and surface.

    Parameters
    ----------
    beta : Array
        Notch factors of tension, bending, torsion.
    d : Real
        Diameter (mm).
    Rz : Real
        Roughness Rz (um).
    sigma_B : Real
        Tensile strength of the part (MPa).
    K_V : Real
        Factor of a strengthened surface.
    Rz_measured : float
        Roughness on which the notch factors were measured (um), 0 for none; K_F counts against it.

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    K = (beta / K_2 + 1 / K_F - 1) / K_V.

    References
    ----------
    DIN 743-1:2012, 5.2.

    Examples
    --------
    >>> [round(float(v), 4) for v in notch_total(np.array([2.0, 1.8, 1.5]), 40.0, 16.0, 700.0)]
    [2.1684, 2.1949, 1.7791]
    """
    K_F = roughness_factor(Rz, sigma_B)
    if Rz_measured:
        K_F = np.minimum(K_F / roughness_factor(Rz_measured, sigma_B), 1.0)
    return as_float((beta / size_factor_notch(d) + 1 / K_F - 1) / as_float(K_V))


def fatigue_safety(amplitude: Array, mean: Array, K: Array, stuff: ShaftMaterial, constant_ratio: bool = True) -> Array:
    """Safety S against fatigue fracture.

    Parameters
    ----------
    amplitude : Array
        Amplitudes of tension, bending, torsion (..., 3; MPa).
    mean : Array
        Mean stresses (..., 3; MPa).
    K : Array
        Total influence by `notch_total` (..., 3).
    stuff : ShaftMaterial
        Strength numbers of the part.
    constant_ratio : bool
        Mean and amplitude grow together (case 2), else the mean stays (case 1).

    Returns
    -------
    Array
        S.

    Notes
    -----
    sigma_WK = sigma_W / K; psi = sigma_WK / (2 sigma_B - sigma_WK); sigma_mv = sqrt((sigma_zdm + sigma_bm)^2 + 3
    tau_m^2), tau_mv = sigma_mv / sqrt 3; bearable amplitude sigma_ADK = sigma_WK / (1 + psi sigma_mv / sigma_a) in case
    2, sigma_WK - psi sigma_mv in case 1; S = 1 / sqrt((sigma_zda / sigma_zdADK + sigma_ba / sigma_bADK)^2 + (tau_a /
    tau_ADK)^2).

    References
    ----------
    DIN 743-1:2012, 5.

    Examples
    --------
    >>> steel = ShaftMaterial(sigma_B=700.0, sigma_S=490.0, sigma_W=np.array([280.0, 350.0, 210.0]))
    >>> round(float(fatigue_safety(np.array([0.0, 60.0, 0.0]), np.zeros(3), np.full(3, 2.0), steel)), 4)
    2.9167
    """
    amplitude, mean = np.broadcast_arrays(np.abs(amplitude), np.abs(mean))
    sigma_WK = stuff.sigma_W / K
    psi = sigma_WK / (2 * as_float(stuff.sigma_B)[..., None] - sigma_WK)
    sigma_mv = np.sqrt((mean[..., 0] + mean[..., 1]) ** 2 + 3 * mean[..., 2] ** 2)
    of_mean = np.stack((sigma_mv, sigma_mv, sigma_mv / np.sqrt(3)), axis=-1)
    tiny = np.maximum(amplitude, 1e-9)
    if constant_ratio:
        use = (amplitude + psi * of_mean * (amplitude > 1e-9)) / sigma_WK
    else:
        use = tiny / np.maximum(sigma_WK - psi * of_mean, 1e-6)
    return as_float(1 / np.maximum(np.hypot(use[..., 0] + use[..., 1], use[..., 2]), 1e-9))


def yield_safety(greatest: Array, stuff: ShaftMaterial, alpha: Array | float = 1.0, hollow: bool = False) -> Array:
    """Safety against yielding.

    Parameters
    ----------
    greatest : Array
        Greatest stresses of tension, bending, torsion (..., 3; MPa).
    stuff : ShaftMaterial
        Strength numbers of the part.
    alpha : Array | float
        Form factors.
    hollow : bool
        Whether the shaft is hollow.

    Returns
    -------
    Array
        S.

    Notes
    -----
    S = 1 / sqrt((sigma_zd / sigma_zdFK + sigma_b / sigma_bFK)^2 + (tau / tau_FK)^2); sigma_FK = K_2F gamma_F sigma_S,
    tau_FK = K_2F sigma_S / sqrt 3; K_2F 1.2 in bending and torsion of solid shafts, 1.1 of hollow bending ones, else 1
    (all 1 with a hard surface); gamma_F 1.05, 1.1, 1.15 from form factors of 1.5, 2, 3.

    References
    ----------
    DIN 743-1:2012, 6.

    Examples
    --------
    >>> steel = ShaftMaterial(sigma_B=700.0, sigma_S=490.0, sigma_W=np.array([280.0, 350.0, 210.0]))
    >>> round(float(yield_safety(np.array([0.0, 120.0, 80.0]), steel)), 3)
    3.208
    """
    greatest = np.abs(greatest)
    alpha = np.broadcast_to(as_float(alpha), greatest.shape)
    gamma = np.select([alpha > 3, alpha >= 2, alpha >= 1.5], [1.15, 1.1, 1.05], 1.0)
    K_2F = np.array([1.0, 1.0, 1.0] if stuff.hard else [1.0, 1.1, 1.0] if hollow else [1.0, 1.2, 1.2])
    if stuff.hard:
        gamma = np.ones_like(gamma)
    sigma_S = as_float(stuff.sigma_S)
    bears = K_2F[:2] * gamma[..., :2] * sigma_S[..., None]
    sheared = K_2F[2] * sigma_S / np.sqrt(3)
    use = np.hypot((greatest[..., :2] / bears).sum(-1), greatest[..., 2] / sheared)
    return as_float(1 / np.maximum(use, 1e-9))


def goodman_safety(amplitude: Array, mean: Array, notch: Array, S_e: Real, S_ut: Real) -> Array:
    """Safety by von Mises stresses on Goodman's line.

    Parameters
    ----------
    amplitude : Array
        Amplitudes of tension, bending, torsion (..., 3; MPa).
    mean : Array
        Mean stresses (..., 3; MPa).
    notch : Array
        Fatigue notch factors.
    S_e : Real
        Endurance limit of the part (MPa).
    S_ut : Real
        Tensile strength (MPa).

    Returns
    -------
    Array
        n.

    Notes
    -----
    1 / n = sigma_a' / S_e + sigma_m' / S_ut; sigma' = sqrt((k_t sigma_zd / 0.85 + k_b sigma_b)^2 + 3 (k_s tau)^2) of
    amplitudes, without the 0.85 of means.

    Examples
    --------
    >>> round(float(goodman_safety(np.array([0.0, 60.0, 0.0]), np.array([0.0, 0.0, 40.0]), np.full(3, 1.6), 250.0, 700.0)), 3)
    1.844
    """  # noqa: E501
    a, m = np.abs(amplitude) * notch, np.abs(mean) * notch
    sigma_a = np.hypot(a[..., 0] / 0.85 + a[..., 1], np.sqrt(3) * a[..., 2])
    sigma_m = np.hypot(m[..., 0] + m[..., 1], np.sqrt(3) * m[..., 2])
    return as_float(1 / np.maximum(sigma_a / S_e + sigma_m / S_ut, 1e-9))


def endurance_limit(S_ut: Real, d: Real, a: float = 4.51, b: float = -0.265) -> Array:
    """Endurance limit of a turning shaft of steel.

    Parameters
    ----------
    S_ut : Real
        Tensile strength (MPa).
    d : Real
        Diameter (mm).
    a : float
        Coefficient of the surface, of machined ones.
    b : float
        Exponent of the surface.

    Returns
    -------
    Array
        S_e (MPa).

    Notes
    -----
    k_a k_b S_e' with S_e' = 0.5 S_ut (at most 700), k_a = a S_ut^b, k_b = 1.24 d^-0.107 up to 51 mm, 1.51 d^-0.157
    above.

    References
    ----------
    Marin's factors.

    Examples
    --------
    >>> round(float(endurance_limit(700.0, 40.0)), 1)
    232.4
    """
    S_ut, d = as_float(S_ut), np.maximum(as_float(d), 2.79)
    k_b = where(d <= 51, 1.24 * d**-0.107, 1.51 * d**-0.157)
    return as_float(np.minimum(a * S_ut**b, 1.0) * k_b * np.minimum(0.5 * S_ut, 700.0))
