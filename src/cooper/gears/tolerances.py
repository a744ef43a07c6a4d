"""Flank tolerances of cylindrical gears. ISO 1328-1:2013."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where

RANGES = {"d": (5.0, 15000.0), "m_n": (0.5, 70.0), "b": (4.0, 1200.0), "Q": (1, 11)}
"""Ranges of reference diameter (mm), module (mm), face width (mm) and class for which the formulas are stated."""


def flank_tolerances(d: Real, m_n: Real, b: Real, Q: Real) -> dict[str, Array]:
    """Tolerances of the flanks of a gear.

    Parameters
    ----------
    d : Real
        Reference diameter (mm).
    m_n : Real
        Normal module (mm).
    b : Real
        Face width (mm).
    Q : Real
        Flank class of ISO 1328-1.

    Returns
    -------
    dict[str, Array]
        Tolerances (um) by symbol, not rounded.

    Notes
    -----
    f_pT single pitch, F_pT total cumulative pitch, f_HalphaT profile slope, f_falphaT profile form, F_alphaT total
    profile, f_HbetaT helix slope, f_fbetaT helix form, F_betaT total helix, F_rT runout. Each class is coarser than the
    one before by the square root of 2; the formulas are those of class 5.

    References
    ----------
    ISO 1328-1:2013, 5.

    Examples
    --------
    >>> {k: round(float(v), 2) for k, v in list(flank_tolerances(100.0, 2.5, 25.0, 5).items())[:2]}
    {'f_pT': 6.1, 'F_pT': 19.45}
    """
    d, m_n, b = (as_float(v) for v in (d, m_n, b))
    step = np.sqrt(2.0) ** (as_float(Q) - 5)
    F_p = 0.002 * d + 0.55 * np.sqrt(d) + 0.7 * m_n + 12
    f_Ha, f_fa = 0.4 * m_n + 0.001 * d + 4, 0.55 * m_n + 5
    f_Hb, f_fb = 0.05 * np.sqrt(d) + 0.35 * np.sqrt(b) + 4, 0.07 * np.sqrt(d) + 0.45 * np.sqrt(b) + 4
    return {
        "f_pT": (0.001 * d + 0.4 * m_n + 5) * step,
        "F_pT": F_p * step,
        "f_HalphaT": f_Ha * step,
        "f_falphaT": f_fa * step,
        "F_alphaT": np.hypot(f_Ha, f_fa) * step,
        "f_HbetaT": f_Hb * step,
        "f_fbetaT": f_fb * step,
        "F_betaT": np.hypot(f_Hb, f_fb) * step,
        "F_rT": 0.9 * F_p * step,
    }


def pitch_span_tolerance(d: Real, m_n: Real, z: Real, k: Real, Q: Real) -> Array:
    """Tolerance of the cumulative pitch over k pitches.

    Parameters
    ----------
    d : Real
        Reference diameter (mm).
    m_n : Real
        Normal module (mm).
    z : Real
        Tooth count.
    k : Real
        Number of pitches.
    Q : Real
        Flank class of ISO 1328-1.

    Returns
    -------
    Array
        Tolerance F_pkT (um).

    Notes
    -----
    F_pkT = f_pT + 4 k/z (0.001 d + 0.55 sqrt(d) + 0.3 m_n + 7). A quarter of the turn has the tolerance of all of it,
    so that more than z/4 pitches have F_pT.

    References
    ----------
    ISO 1328-1:2013.

    Examples
    --------
    >>> float(pitch_span_tolerance(100.0, 4.0, 25, 25 / 4, 5)), float(flank_tolerances(100.0, 4.0, 10.0, 5)["F_pT"])
    (20.5, 20.5)
    """
    whole = flank_tolerances(d, m_n, 10.0, Q)
    d, m_n = as_float(d), as_float(m_n)
    step = np.sqrt(2.0) ** (as_float(Q) - 5)
    more = 4 * as_float(k) / np.abs(z) * (0.001 * d + 0.55 * np.sqrt(d) + 0.3 * m_n + 7) * step
    return as_float(np.minimum(whole["f_pT"] + more, whole["F_pT"]))


def single_flank_tolerances(d: Real, m_n: Real, Q: Real) -> dict[str, Array]:
    """Single flank composite tolerances of a mesh whose design transmits evenly.

    Parameters
    ----------
    d : Real
        Reference diameter (mm).
    m_n : Real
        Normal module (mm).
    Q : Real
        Flank class of ISO 1328-1.

    Returns
    -------
    dict[str, Array]
        Tolerances (um) by symbol.

    Notes
    -----
    f_isT = (0.375 m_n + 5) at class 5 from tooth to tooth, F_isT = F_pT + f_isT in all.

    References
    ----------
    ISO 1328-1:2013, Annex D.

    Examples
    --------
    >>> {k: round(float(v), 2) for k, v in single_flank_tolerances(100.0, 4.0, 5).items()}
    {'f_isT': 6.5, 'F_isT': 27.0}
    """
    f_is = (0.375 * as_float(m_n) + 5) * np.sqrt(2.0) ** (as_float(Q) - 5)
    return {"f_isT": f_is, "F_isT": flank_tolerances(d, m_n, 10.0, Q)["F_pT"] + f_is}


RADIAL_RANGES = {"d": (5.0, 1000.0), "m_n": (0.2, 10.0), "Q": (4, 12)}
"""Ranges for which `radial_tolerances` are stated."""


def radial_tolerances(d: Real, m_n: Real, Q: Real) -> dict[str, Array]:
    """Radial composite tolerances, total F_i'' and tooth to tooth f_i'', on a master gear.

    Parameters
    ----------
    d : Real
        Reference diameter (mm).
    m_n : Real
        Normal module (mm).
    Q : Real
        Flank class of ISO 1328-1.

    Returns
    -------
    dict[str, Array]
        Tolerances (um) by symbol.

    Notes
    -----
    The edition is withdrawn: that of 2020 has other formulas and classes R30 to R50, which are not known surely here.

    References
    ----------
    ISO 1328-2:1997.

    Examples
    --------
    >>> {k: round(float(v), 1) for k, v in radial_tolerances(79.06, 1.936, 5).items()}
    {'F_i': 21.6, 'f_i': 6.6}
    """
    d, m_n = as_float(d), as_float(m_n)
    step = 2 ** (0.5 * (as_float(Q) - 5))
    return {"F_i": (3.2 * m_n + 1.01 * np.sqrt(d) + 6.4) * step, "f_i": (2.96 * m_n + 0.01 * np.sqrt(d) + 0.8) * step}


def rounded(tolerance: Real) -> Array:
    """A tolerance as it is stated: above 10 um to whole ones, above 5 um to halves, below to tenths.

    Parameters
    ----------
    tolerance : Real
        Tolerance (um).

    Returns
    -------
    Array
        Tolerance (um).

    Examples
    --------
    >>> [float(rounded(v)) for v in (19.45, 6.1, 3.27)]
    [19.0, 6.0, 3.3]
    """
    t = as_float(tolerance)
    return where(t > 10, np.round(t), where(t > 5, np.round(2 * t) / 2, np.round(10 * t) / 10))
