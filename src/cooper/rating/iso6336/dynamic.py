"""Dynamic factor K_V by method B: the resonance of the pair. ISO 6336-1:2019, 6.5."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where


def disc_mass(d_a: Real, d_f: Real, d_i: Real, rho: Real) -> tuple[Array, Array, Array]:
    """Mean diameter, ratio of the rim and density of a gear's disc.

    Parameters
    ----------
    d_a : Real
        Tip diameter (mm).
    d_f : Real
        Root diameter (mm).
    d_i : Real
        Bore, or the rim's outside of a ring (mm).
    rho : Real
        Density (kg/m3).

    Returns
    -------
    tuple[Array, Array, Array]
        Mean diameter d_m (mm), ratio q of the rim, and (1 - q^4) rho (kg/mm3).

    References
    ----------
    ISO 6336-1:2019, 6.5.
    """
    d_m = (np.abs(d_a) + np.abs(d_f)) / 2
    q = np.abs(d_i) / d_m
    return d_m, q, np.abs(1 - q**4) * as_float(rho) * 1e-9


def reduced_mass(d_b1: Real, u: Real, disc_1: tuple[Array, Array, Array], disc_2: tuple[Array, Array, Array]) -> Array:
    """Mass of the pair per mm of face width, reduced to the line of action.

    Parameters
    ----------
    d_b1 : Real
        Base diameter of gear 1 (mm).
    u : Real
        Ratio of counts, negative for an internal wheel.
    disc_1 : tuple[Array, Array, Array]
        Disc of the pinion by `disc_mass`.
    disc_2 : tuple[Array, Array, Array]
        Disc of the wheel by `disc_mass`.

    Returns
    -------
    Array
        Mass (kg/mm).

    References
    ----------
    ISO 6336-1:2019, 6.5.

    Examples
    --------
    >>> disc = disc_mass(104.0, 95.0, 0.0, 7850.0)
    >>> round(float(reduced_mass(94.0, 1.0, disc, disc)), 5)
    0.0171
    """
    d_m1, _, mass_1 = disc_1
    d_m2, _, mass_2 = disc_2
    u, d_b1 = as_float(u), as_float(d_b1)
    # The standard takes d_m2 = u d_m1 for external pairs; of a ring its own mean diameter is taken.
    like = where(u > 0, d_m1, d_m2 / np.abs(u))
    m_1 = np.pi / 8 * d_m1**4 / d_b1**2 * mass_1
    m_2 = np.pi / 8 * like**4 / d_b1**2 * mass_2 * u**2
    return m_1 * m_2 / (m_1 + m_2)


def resonance_speed(z_1: Real, c_gamma: Real, m_red: Real) -> Array:
    """Resonance running speed of the pinion n_E1.

    Parameters
    ----------
    z_1 : Real
        Tooth count of the pinion.
    c_gamma : Real
        Mesh stiffness (N/(mm um)).
    m_red : Real
        Reduced mass (kg/mm).

    Returns
    -------
    Array
        n_E1 (1/min).

    Notes
    -----
    n_E1 = 30000/(pi z_1) sqrt(c_gamma/m_red).

    References
    ----------
    ISO 6336-1:2019, 6.5.

    Examples
    --------
    >>> round(float(resonance_speed(20, 20.0, 0.01)))
    21353
    """
    return as_float(30000 / (np.pi * as_float(z_1)) * np.sqrt(as_float(c_gamma) / as_float(m_red)))


def lower_limit(line_load: Real) -> Array:
    """Resonance ratio N_S at which the main resonance range begins.

    Parameters
    ----------
    line_load : Real
        Line load F_t K_A/b (N/mm).

    Returns
    -------
    Array
        N_S.

    Notes
    -----
    0.85 from 100 N/mm on, else 0.5 + 0.35 sqrt(line_load/100).

    References
    ----------
    ISO 6336-1:2019, 6.5.

    Examples
    --------
    >>> float(lower_limit(150.0)), round(float(lower_limit(25.0)), 3)
    (0.85, 0.675)
    """
    return np.minimum(0.5 + 0.35 * np.sqrt(as_float(line_load) / 100), 0.85)


def running_in_relief(sigma_Hlim_1: Real, sigma_Hlim_2: Real) -> Array:
    """Tip relief C_ay that running-in leaves on flanks without a designed one, mean of both materials.

    Parameters
    ----------
    sigma_Hlim_1 : Real
        Allowable contact stress number of gear 1 (MPa).
    sigma_Hlim_2 : Real
        Allowable contact stress number of gear 2 (MPa).

    Returns
    -------
    Array
        C_ay (um).

    Notes
    -----
    C_ay = (sigma_Hlim/97 - 18.45)^2/18 + 1.5 of each.

    References
    ----------
    ISO 6336-1:2019, 6.5.

    Examples
    --------
    >>> round(float(running_in_relief(1500.0, 1500.0)), 2)
    2.0
    """
    each = [(as_float(s) / 97 - 18.45) ** 2 / 18 + 1.5 for s in (sigma_Hlim_1, sigma_Hlim_2)]
    return (each[0] + each[1]) / 2


def dynamic_factor_b(
    N: Real, line_load: Real, eps_gamma: Real, c: Real, f_pbeff: Real, f_faeff: Real, B_k: Real
) -> Array:
    """Dynamic factor K_V by method B.

    Parameters
    ----------
    N : Real
        Resonance ratio n_1/n_E1.
    line_load : Real
        Line load F_t K_A/b (N/mm).
    eps_gamma : Real
        Total contact ratio.
    c : Real
        Single stiffness c' (N/(mm um)).
    f_pbeff : Real
        Effective base pitch deviation after running-in (um).
    f_faeff : Real
        Effective profile form deviation after running-in (um).
    B_k : Real
        Influence of tip relief, 1 where there is none to rely on.

    Returns
    -------
    Array
        K_V.

    Notes
    -----
    Subcritical up to N_S, main resonance to 1.15, a straight line to 1.5, supercritical from there.

    References
    ----------
    ISO 6336-1:2019, 6.5.

    Examples
    --------
    >>> [round(float(dynamic_factor_b(n, 200.0, 1.6, 14.0, 8.0, 8.0, 1.0)), 3) for n in (0.1, 1.0, 2.0)]
    [1.06, 2.27, 1.283]
    """
    N, eps, load = (as_float(a) for a in (N, eps_gamma, line_load))
    B_p, B_f = as_float(c) * f_pbeff / load, as_float(c) * f_faeff / load
    two = eps > 2
    high = np.maximum(eps, 2.0)
    C_v2 = where(two, 0.57 / (high - 0.3), 0.34)
    C_v3 = where(two, 0.096 / (high - 1.56), 0.23)
    C_v4 = where(two, (0.57 - 0.05 * high) / (high - 1.44), 0.90)
    C_v6 = where(two, 0.12 / (high - 1.74), 0.47)
    wave = 0.125 * np.sin(np.pi * (eps - 2)) + 0.875
    C_v7 = where(eps <= 1.5, 0.75, where(eps <= 2.5, wave, 1.0))
    below = 1 + N * (0.32 * B_p + C_v2 * B_f + C_v3 * B_k)
    within = 1 + 0.32 * B_p + C_v2 * B_f + C_v4 * B_k
    above = 0.47 * B_p + C_v6 * B_f + C_v7
    between = above + (within - above) / 0.35 * (1.5 - N)
    K = where(lower_limit(load) >= N, below, where(N <= 1.15, within, where(N < 1.5, between, above)))
    return as_float(np.maximum(K, 1.0))
