"""Form factor Y_F and stress correction factor Y_S by the 30 degree tangent. ISO 6336-3:2019, 6 and 7."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array, Real
from cooper.gears.involute import inv
from cooper.gears.rack import Rack


@dataclass(frozen=True)
class RootSection:
    """Critical section of a tooth at the 30 degree tangent; lengths in mm, angles in rad.

    ``s_Fn`` chord, ``h_Fe`` lever arm, ``rho_F`` fillet radius there, ``alpha_Fen`` load direction at the outer point
    of single contact.
    """

    s_Fn: Array
    h_Fe: Array
    rho_F: Array
    alpha_Fen: Array


def root_section(
    z: Real,
    m_n: Real,
    beta: Real,
    x: Real,
    rack: Rack,
    d_Na: Real,
    eps_alpha: Real,
) -> RootSection:
    """Critical section of an external rack-cut gear, load at the outer point of single contact (method B).

    ``x`` is the shift that makes the root, ``d_Na`` the active tip diameter (mm). ISO 6336-3:2019;
    the virtual spur gear stands for a helical one.
    """
    alpha_n = np.asarray(rack.alpha_n, dtype=float)
    beta_b = np.arcsin(np.sin(beta) * np.cos(alpha_n))
    z = np.asarray(z, dtype=float)
    z_n = virtual_tooth_count(z, beta, beta_b)
    h_f, rho, x = np.asarray(rack.h_fP), np.asarray(rack.rho_fP), np.asarray(x)
    # All lengths below are factors of m_n.
    E = np.pi / 4 - h_f * np.tan(alpha_n) - (1 - np.sin(alpha_n)) * rho / np.cos(alpha_n)
    G = rho - h_f + x
    H = 2 / z_n * (np.pi / 2 - E) - np.pi / 3
    theta = np.full(np.shape(G / z_n * H), np.pi / 6)
    for _ in range(6):
        f = theta - 2 * G / z_n * np.tan(theta) + H
        theta = theta - f / (1 - 2 * G / (z_n * np.cos(theta) ** 2))
    s_Fn = z_n * np.sin(np.pi / 3 - theta) + np.sqrt(3) * (G / np.cos(theta) - rho)
    rho_F = rho + 2 * G**2 / (np.cos(theta) * (z_n * np.cos(theta) ** 2 - 2 * G))
    d_n = z_n
    d_bn = d_n * np.cos(alpha_n)
    d_an = d_n + (np.asarray(d_Na) / m_n - z / np.cos(beta))
    eps_n = np.asarray(eps_alpha) / np.cos(beta_b) ** 2
    tip = np.sqrt(np.maximum((d_an / 2) ** 2 - (d_bn / 2) ** 2, 0))
    d_en = 2 * np.hypot(tip - np.pi * np.cos(alpha_n) * (eps_n - 1), d_bn / 2)
    alpha_en = np.arccos(np.clip(d_bn / d_en, -1, 1))
    gamma_e = (np.pi / 2 + 2 * x * np.tan(alpha_n)) / z_n + inv(alpha_n) - inv(alpha_en)
    alpha_Fen = alpha_en - gamma_e
    h_Fe = 0.5 * (
        (np.cos(gamma_e) - np.sin(gamma_e) * np.tan(alpha_Fen)) * d_en
        - z_n * np.cos(np.pi / 3 - theta)
        - (G / np.cos(theta) - rho)
    )
    return RootSection(s_Fn * m_n, h_Fe * m_n, rho_F * m_n, alpha_Fen)


def form_factor(section: RootSection, m_n: Real, alpha_n: Real, f_eps: Real = 1.0) -> Array:
    """Form factor Y_F. ISO 6336-3:2019; f_eps is the load distribution influence factor."""
    s, h = section.s_Fn / m_n, section.h_Fe / m_n
    return 6 * h * np.cos(section.alpha_Fen) / (s**2 * np.cos(alpha_n)) * f_eps


def load_distribution_factor(eps_alpha_n: Real, eps_beta: Real = 0.0) -> Array:
    """Load distribution influence factor f_eps. ISO 6336-3:2019, 6.

    Spur gears: 1 below a virtual contact ratio of 2, 0.7 from 2 on. Helical gears: falls with the overlap ratio to
    eps_alpha_n^-0.5 at an overlap of 1.

    >>> float(load_distribution_factor(1.6)), round(float(load_distribution_factor(1.6, 1.2)), 4)
    (1.0, 0.7906)
    """
    eps_n, eps_beta = np.asarray(eps_alpha_n, dtype=float), np.asarray(eps_beta, dtype=float)
    spur = np.where(eps_n < 2, 1.0, 0.7)
    share = np.minimum(eps_beta, 1.0)
    return np.where(eps_beta == 0, spur, np.sqrt(1 - share + share / eps_n))


def virtual_tooth_count(z: Real, beta: Real, beta_b: Real) -> Array:
    """Tooth count of the spur gear that stands for a helical one. ISO 6336-3:2019, 6."""
    return np.asarray(z) / (np.cos(beta_b) ** 2 * np.cos(beta))


def notch_parameter(section: RootSection) -> Array:
    """Notch parameter q_s = s_Fn/(2 rho_F). ISO 6336-3:2019."""
    return section.s_Fn / (2 * section.rho_F)


def stress_correction_factor(section: RootSection) -> Array:
    """Stress correction factor Y_S, valid for 1 <= q_s < 8. ISO 6336-3:2019."""
    L = section.s_Fn / section.h_Fe
    return (1.2 + 0.13 * L) * notch_parameter(section) ** (1 / (1.21 + 2.3 / L))
