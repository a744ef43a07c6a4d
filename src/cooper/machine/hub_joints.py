"""What joins a hub to its shaft: parallel keys (DIN 6892:2012), splines, press fits (DIN 7190-1:2017), pins and set
screws."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, where


def key_pressure(T: Real, d: Real, h: Real, t_1: Real, l_tr: Real, i: Real = 1.0) -> Array:
    """Pressure of a parallel key on hub or shaft, the greater of both.

    Parameters
    ----------
    T : Real
        Torque (N m).
    d : Real
        Diameter of the shaft (mm).
    h : Real
        Height of the key (mm).
    t_1 : Real
        Depth of the keyway in the shaft (mm).
    l_tr : Real
        Bearing length (mm), at most 1.3 d of which counts.
    i : Real
        Number of keys, of two 0.75 of each counts.

    Returns
    -------
    Array
        Pressure (MPa).

    Notes
    -----
    2 T / (d l_tr i phi min(h - t_1, t_1)).

    References
    ----------
    DIN 6892:2012, method C.

    Examples
    --------
    >>> round(float(key_pressure(200.0, 40.0, 8.0, 5.0, 40.0)), 2)
    83.33
    """
    d = as_float(d)
    phi = where(as_float(i) > 1, 0.75, 1.0)
    length = np.minimum(l_tr, 1.3 * d)
    return as_float(2000 * as_float(T) / (d * length * i * phi * np.minimum(as_float(h) - t_1, t_1)))


def key_safety(p: Real, R_e: Real, share: float = 0.9) -> Array:
    """Safety of a key against crushing.

    Parameters
    ----------
    p : Real
        Pressure (MPa).
    R_e : Real
        Least yield point of shaft, key and hub (MPa).
    share : float
        Share of the yield point that counts.

    Returns
    -------
    Array
        share R_e / p.

    References
    ----------
    DIN 6892:2012, method C.

    Examples
    --------
    >>> round(float(key_safety(83.33, 300.0)), 3)
    3.24
    """
    return as_float(share * as_float(R_e) / np.maximum(p, 1e-9))


def key_shear(T: Real, d: Real, b: Real, length: Real) -> Array:
    """Shear stress in a key's length section: 2 T / (d b l).

    Parameters
    ----------
    T : Real
        Torque (N m).
    d : Real
        Diameter of the shaft (mm).
    b : Real
        Width of the key (mm).
    length : Real
        Length (mm).

    Returns
    -------
    Array
        Stress (MPa).

    Notes
    -----
    What a key that is to fail first is sized by.

    Examples
    --------
    >>> round(float(key_shear(200.0, 40.0, 12.0, 40.0)), 2)
    20.83
    """
    return as_float(2000 * as_float(T) / (as_float(d) * b * length))


def key_length(T: Real, d: Real, h: Real, t_1: Real, R_e: Real, S: Real, share: float = 0.9) -> Array:
    """Bearing length of one key for a wanted safety against crushing.

    Parameters
    ----------
    T : Real
        Torque (N m).
    d : Real
        Diameter of the shaft (mm).
    h : Real
        Height of the key (mm).
    t_1 : Real
        Depth of the keyway in the shaft (mm).
    R_e : Real
        Least yield point of shaft, key and hub (MPa).
    S : Real
        Safety wanted.
    share : float
        Share of the yield point that counts.

    Returns
    -------
    Array
        Length (mm), inf where 1.3 d do not give it.

    References
    ----------
    DIN 6892:2012, method C.

    Examples
    --------
    >>> round(float(key_length(200.0, 40.0, 8.0, 5.0, 300.0, 2.0)), 2)
    24.69
    """
    needed = key_pressure(T, d, h, t_1, 1.0) * as_float(S) / (share * as_float(R_e))
    return as_float(where(needed > 1.3 * as_float(d), np.inf, needed))


def spline_pressure(T: Real, d_m: Real, h: Real, z: Real, length: Real, bearing_share: Real = 0.75) -> Array:
    """Flank pressure of a spline. Customary, as for DIN 5480 and ISO 14.

    Parameters
    ----------
    T : Real
        Torque (N m).
    d_m : Real
        Mean diameter of the flanks (mm).
    h : Real
        Bearing height of a flank (mm).
    z : Real
        Number of teeth.
    length : Real
        Length (mm).
    bearing_share : Real
        Share of its flanks that bear.

    Returns
    -------
    Array
        Pressure (MPa).

    Notes
    -----
    2 T / (share d_m h z l).

    Examples
    --------
    >>> round(float(spline_pressure(400.0, 28.75, 1.125, 22, 30.0)), 2)
    49.97
    """
    return as_float(2000 * as_float(T) / (as_float(bearing_share) * d_m * h * z * length))


def spline_shear(T: Real, d_f: Real) -> Array:
    """Shear stress in the core of a splined shaft: 16 T / (pi d_f^3).

    Parameters
    ----------
    T : Real
        Torque (N m).
    d_f : Real
        Root diameter (mm).

    Returns
    -------
    Array
        Stress (MPa).

    Examples
    --------
    >>> round(float(spline_shear(400.0, 27.25)), 1)
    100.7
    """
    return as_float(16000 * as_float(T) / (np.pi * as_float(d_f) ** 3))


def pin_shear(T: Real, d: Real, d_pin: Real) -> Array:
    """Shear stress in a pin across hub and shaft, which it passes twice: 4 T / (pi d_pin^2 d).

    Parameters
    ----------
    T : Real
        Torque (N m).
    d : Real
        Diameter of the shaft (mm).
    d_pin : Real
        Diameter of the pin (mm).

    Returns
    -------
    Array
        Stress (MPa).

    Examples
    --------
    >>> round(float(pin_shear(20.0, 20.0, 5.0)), 2)
    50.93
    """
    return as_float(4000 * as_float(T) / (np.pi * as_float(d_pin) ** 2 * d))


def pin_pressure(T: Real, d: Real, d_pin: Real, d_hub: Real) -> Array:
    """Greatest pressure of a pin across hub and shaft.

    Parameters
    ----------
    T : Real
        Torque (N m).
    d : Real
        Diameter of the shaft (mm).
    d_pin : Real
        Diameter of the pin (mm).
    d_hub : Real
        Outside diameter of the hub (mm).

    Returns
    -------
    Array
        Pressure (MPa).

    Notes
    -----
    The greater of 6 T / (d_pin d^2) in the shaft, where it rises from the axis outwards, and 4 T / (d_pin (d_hub^2 -
    d^2)) in the hub.

    Examples
    --------
    >>> round(float(pin_pressure(20.0, 20.0, 5.0, 40.0)), 2)
    60.0
    """
    d, T = as_float(d), 1000 * as_float(T)
    wall = np.maximum(as_float(d_hub) ** 2 - d**2, 1e-9)
    return as_float(np.maximum(6 * T / (d_pin * d**2), 4 * T / (d_pin * wall)))


THREAD_FRICTION = 0.14
"""Friction in a set screw's thread and under its point; VDI 2230-1:2015, Table A5, class B, clean steel. What is
higher lets it press less."""


def screw_force(M_A: Real, d: Real, P: Real, d_z: Real, mu: Real = THREAD_FRICTION) -> Array:
    """Force with which a set screw presses on the shaft.

    Parameters
    ----------
    M_A : Real
        Tightening torque (N m).
    d : Real
        Diameter of the thread (mm).
    P : Real
        Pitch of the thread (mm).
    d_z : Real
        Diameter of the point (mm).
    mu : Real
        Coefficient of friction.

    Returns
    -------
    Array
        Force (N).

    Notes
    -----
    M_A / (0.159 P + 0.577 d_2 mu + d_z mu/2), d_2 = d - 0.6495 P, the point with its diameter in place of the head.

    References
    ----------
    VDI 2230-1:2015, 5.4.3.

    Examples
    --------
    >>> round(float(screw_force(4.0, 5.0, 0.8, 2.5)), 0)
    6020.0
    """
    d_2 = as_float(d) - 0.6495 * as_float(P)
    arm = as_float(P) / (2 * np.pi) + d_2 * mu / (2 * np.cos(np.pi / 6)) + as_float(d_z) * mu / 2
    return as_float(1000 * as_float(M_A) / arm)


def screw_torque(F: Real, d: Real, mu: Real, two: Real = False) -> Array:
    """Torque at which a hub slips that set screws press against its shaft.

    Parameters
    ----------
    F : Real
        Force of a screw (N).
    d : Real
        Diameter of the shaft (mm).
    mu : Real
        Coefficient of friction.
    two : Real
        Whether there are two, a quarter of the turn apart.

    Returns
    -------
    Array
        Torque (N m).

    Notes
    -----
    One presses the shaft against the bore with its own force: mu F d; of two the bore bears the resultant: mu (2 +
    sqrt(2)) F d/2. Statics; that the point digs in is not counted.

    Examples
    --------
    >>> float(screw_torque(6000.0, 20.0, 0.12)), round(float(screw_torque(6000.0, 20.0, 0.12, True)), 2)
    (14.4, 24.58)
    """
    pressed = where(np.asarray(two, dtype=bool), 2 + np.sqrt(2.0), 2.0)
    return as_float(mu * pressed * as_float(F) * d / 2000)


class Pressed(Struct, frozen=True):
    """An elastic press fit: pressure ``p`` (MPa), greatest equivalent stress of hub and shaft (MPa), transmissible
    torque ``T`` (N m) and axial force ``F`` (N)."""

    p: Array
    sigma_hub: Array
    sigma_shaft: Array
    T: Array
    F: Array


def press_fit(
    *,
    U: Real,
    d: Real,
    d_hub: Real,
    length: Real,
    mu: Real,
    d_i: Real = 0.0,
    E_hub: Real = 206000.0,
    E_shaft: Real = 206000.0,
    nu_hub: Real = 0.3,
    nu_shaft: Real = 0.3,
    smoothed: Real = 0.0,
    omega: Real = 0.0,
    rho: Real = 7850.0,
    dtheta: Real = 0.0,
    alpha_hub: Real = 11e-6,
    alpha_shaft: Real = 11e-6,
) -> Pressed:
    """An elastic press fit; stresses by shear (Tresca).

    Parameters
    ----------
    U : Real
        Interference (mm).
    d : Real
        Diameter of the joint (mm).
    d_hub : Real
        Outside diameter of the hub (mm).
    length : Real
        Length of the joint (mm).
    mu : Real
        Coefficient of friction.
    d_i : Real
        Bore of a hollow shaft (mm).
    E_hub : Real
        Modulus of elasticity of the hub (MPa).
    E_shaft : Real
        Modulus of elasticity of the shaft (MPa).
    nu_hub : Real
        Poisson's ratio of the hub.
    nu_shaft : Real
        Poisson's ratio of the shaft.
    smoothed : Real
        Loss of interference by smoothing (mm).
    omega : Real
        Angular speed (rad/s).
    rho : Real
        Density (kg/m3).
    dtheta : Real
        Temperature above that of the measured interference (K).
    alpha_hub : Real
        Coefficient of expansion of the hub (1/K).
    alpha_shaft : Real
        Coefficient of expansion of the shaft (1/K).

    Returns
    -------
    Pressed
        Pressure (MPa), stresses (MPa) and torque (N m).

    Notes
    -----
    U_w = U - smoothed - (alpha_hub - alpha_shaft) dtheta d - loosening by turning; p = U_w / (d K) with K = (1/E_hub)
    ((1 + Q^2) / (1 - Q^2) + nu_hub) + (1/E_shaft) ((1 + Q_i^2) / (1 - Q_i^2) - nu_shaft), Q = d / d_hub, Q_i = d_i / d;
    sigma_hub = 2 p / (1 - Q^2), sigma_shaft = 2 p / (1 - Q_i^2) of a hollow shaft, p of a solid one; T = pi / 2 mu p
    d^2 l. Turning of like materials takes from the pressure rho omega^2 (3 + nu) / 32 (d_hub^2 - d_i^2) (1 - Q^2) (1 -
    Q_i^2) / (1 - (Q Q_i)^2).

    References
    ----------
    DIN 7190-1:2017, elastic design.

    Examples
    --------
    >>> found = press_fit(U=0.05, d=50.0, d_hub=100.0, length=40.0, mu=0.14)
    >>> round(float(found.p), 2), round(float(found.T), 1), round(float(found.sigma_hub), 1)
    (77.25, 1698.8, 206.0)
    """
    U, d, d_hub, d_i = (as_float(v) for v in (U, d, d_hub, d_i))
    Q, Q_i = d / d_hub, d_i / d
    K = ((1 + Q**2) / (1 - Q**2) + nu_hub) / E_hub + ((1 + Q_i**2) / (1 - Q_i**2) - nu_shaft) / E_shaft
    left = U - smoothed - (as_float(alpha_hub) - alpha_shaft) * dtheta * d
    spun = as_float(rho) * 1e-12 * as_float(omega) ** 2 * (3 + as_float(nu_hub)) / 32 * (d_hub**2 - d_i**2)
    spun = spun * (1 - Q**2) * (1 - Q_i**2) / (1 - (Q * Q_i) ** 2)
    p = np.maximum(left / (d * K) - spun, 0.0)
    in_shaft = where(d_i > 0, 2 * p / (1 - Q_i**2), p)
    T = np.pi / 2 * as_float(mu) * p * d**2 * length / 1000
    return Pressed(p, 2 * p / (1 - Q**2), in_shaft, as_float(T), as_float(np.pi * as_float(mu) * p * d * length))
