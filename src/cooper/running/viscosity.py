"""Oil viscosity and density over temperature."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float


def kinematic_viscosity(nu_40: Real, nu_100: Real, temperature: Real) -> Array:
    """Kinematic viscosity at a temperature, on the line through 40 and 100 degrees C.

    Parameters
    ----------
    nu_40 : Real
        Kinematic viscosity of the oil at 40 degrees C (mm2/s).
    nu_100 : Real
        Kinematic viscosity at 100 degrees C (mm2/s).
    temperature : Real
        Temperature (degrees C).

    Returns
    -------
    Array
        Viscosity (mm2/s).

    Notes
    -----
    log10(log10(nu + 0.7)) = A - B log10(T); for nu above 2 mm2/s.

    References
    ----------
    ASTM D341.

    Examples
    --------
    >>> round(float(kinematic_viscosity(220, 18.9, 40)), 6), round(float(kinematic_viscosity(220, 18.9, 100)), 6)
    (220.0, 18.9)
    """
    T = as_float(temperature) + 273.15

    def w(nu: Real) -> Array:
        return np.log10(np.log10(as_float(nu) + 0.7))

    t_40, t_100 = np.log10(313.15), np.log10(373.15)
    slope = (w(nu_40) - w(nu_100)) / (t_100 - t_40)
    return as_float(10 ** (10 ** (w(nu_40) - slope * (np.log10(T) - t_40))) - 0.7)


def density(rho_15: Real, temperature: Real) -> Array:
    """Oil density at a temperature from that at 15 degrees C.

    Parameters
    ----------
    rho_15 : Real
        Density at 15 degrees C (kg/m3).
    temperature : Real
        Temperature (degrees C).

    Returns
    -------
    Array
        Density (kg/m3).

    Notes
    -----
    Linear with 0.7 kg/m3 per degree, the customary coefficient for mineral oils (ISO/TR 14179-2 uses the same form).
    """
    return as_float(rho_15) - 0.7 * (as_float(temperature) - 15)


def dynamic_viscosity(nu: Real, rho: Real) -> Array:
    """Dynamic viscosity, nu rho/1000.

    Parameters
    ----------
    nu : Real
        Kinematic viscosity (mm2/s).
    rho : Real
        Density (kg/m3).

    Returns
    -------
    Array
        Viscosity (mPa s).

    Examples
    --------
    >>> float(dynamic_viscosity(100.0, 900.0))
    90.0
    """
    return as_float(as_float(nu) * as_float(rho) / 1000)
