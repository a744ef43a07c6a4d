"""Finds the shift of the pinion at which both roots are equally safe, with a general root finder."""

from scipy.optimize import brentq

import cooper

start = cooper.example("mirror-cover")


def apart(x_1: float) -> float:
    """Difference of both safeties at a shift of the pinion."""
    model = start.set(x_1=x_1)
    return model["S_F1"] - model["S_F2"]


x_1 = brentq(apart, 0.0, 0.5, xtol=1e-3)
model = start.set(x_1=round(x_1, 3))
print(f"x_1 = {model['x_1']:.3f}: S_F1 = {model['S_F1']:.3f}, S_F2 = {model['S_F2']:.3f}")
