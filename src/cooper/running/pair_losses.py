"""Mesh losses of pairs by the friction law that is chosen, as arrays over designs."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, any_, as_float, where
from cooper.gears.inputs import PairInput
from cooper.gears.path_of_contact import Path
from cooper.running.friction import coefficient_1, load_intensity, loss_along_path, loss_factor_1
from cooper.running.mesh_loss import friction_coefficient, loss_factor
from cooper.running.viscosity import density, dynamic_viscosity, kinematic_viscosity
from cooper.values import MeshValues


def add_loss_factor(p: PairInput, mesh: MeshValues[Array], path: Path) -> None:
    """Add the tooth loss factor H_V to the values.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    path : Path
        Distances g of A, B, C, D, E along the line of action (mm).

    References
    ----------
    ISO/TR 14179-2:2001.
    """
    mesh.H_V = loss_factor(p.gears[0].z, mesh.u, mesh.beta_b, mesh.eps_alpha, path.eps_1, path.eps_2)


def add_losses(p: PairInput, mesh: MeshValues[Array], path: Path) -> None:
    """Add coefficient of friction and mesh loss by the method chosen to the values.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    path : Path
        Distances g of A, B, C, D, E along the line of action (mm).

    References
    ----------
    ISO/TR 14179-1 and -2:2001.
    """
    nu = kinematic_viscosity(p.nu_40, p.nu_100, p.theta_oil)
    eta = dynamic_viscosity(nu, density(p.rho_15, p.theta_oil))
    # Rz = 6 Ra is the conversion of ISO 6336-2:2019, 12.
    Ra = (p.gears[0].Rz_H + p.gears[1].Rz_H) / 2 / 6
    v_w = mesh.v * np.cos(mesh.alpha_t) / np.cos(mesh.alpha_wt)
    mu = friction_coefficient(mesh.F_bt, mesh.b_H, v_w, mesh.alpha_wt, mesh.rho_red, eta, Ra, p.X_L)
    H_V = mesh.H_V
    P = p.T_1 * p.omega_1 * p.copies
    if any_(as_float(p.friction) > 0):
        mu, H_V = _other_friction(p, mesh, path, nu, eta, v_w, mu, H_V)
    if any_(p.warms):
        # No film of oil parts plastic flanks: what warms them is what they lose.
        mu, H_V = where(p.warms, p.mu_plastic, mu), where(p.warms, mesh.H_V, H_V)
        mesh.mu_pl = as_float(p.mu_plastic)
    mesh.update(nu_oil=nu, eta_oil=eta, mu_mz=mu, H_V=H_V, P_VZ=P * mu * H_V, eta_z=1 - mu * H_V)


def _other_friction(
    p: PairInput, mesh: MeshValues[Array], path: Path, nu: Array, eta: Array, v_w: Array, mu: Array, H_V: Array
) -> tuple[Array, Array]:
    """Friction coefficient and loss factor by the law that is chosen; H_V is the loss over the coefficient."""
    r_w1 = p.a_w / (1 + mesh.u)
    K = load_intensity(p.T_1, mesh.b_H, r_w1, mesh.u)
    ends = [np.abs(g - path.C) * np.abs(1 + 1 / mesh.u) / np.abs(r_w1) for g in (path.A, path.E)]
    mu_1, H_1 = (
        coefficient_1(nu, K, v_w),
        loss_factor_1(ends[0], ends[1], mesh.alpha_wt, np.arctan(np.tan(mesh.beta_b) / np.cos(mesh.alpha_wt))),
    )
    places = (path.A, path.B, path.C, path.D, path.E)
    P_path, mu_path = loss_along_path(places, path.T2, mesh.u, p.omega_1, mesh.F_bt, mesh.b_H, eta)
    H_path = P_path / (mu_path * p.T_1 * p.omega_1) / np.cos(mesh.beta_b)
    law = as_float(p.friction)
    return where(law == 1, mu_1, where(law == 2, mu_path, mu)), where(law == 1, H_1, where(law == 2, H_path, H_V))
