"""The lightest pair of a given module that holds, over width and count, by a general optimiser."""

from scipy.optimize import differential_evolution

import cooper
from cooper.errors import OutOfRange

start = cooper.from_duty(2200, 1420, 4.0, 8000)


def cost(v: tuple[float, float]) -> float:
    """Mass, and much more where a check is short."""
    z, b = round(v[0]), round(float(v[1]), 1)
    try:
        model = start.set({"z_1": z, "z_2": 4 * z, "b_1": b, "b_2": b})
    except OutOfRange:
        return 1e3
    short = sum(max(-check.margin, 0.0) for check in model.checks)
    return model["mass_1"] + model["mass_2"] + 50 * short


found = differential_evolution(cost, [(17, 26), (10, 40)], maxiter=4, popsize=5, seed=4, polish=False)
z, b = round(found.x[0]), round(float(found.x[1]), 1)
best = start.set({"z_1": z, "z_2": 4 * z, "b_1": b, "b_2": b})
print(
    f"z = {z}/{4 * z}, b = {b} mm, m_n = {best['m_n']:g} mm: {best['mass_1'] + best['mass_2']:.2f} kg, {best.verdict}"
)
