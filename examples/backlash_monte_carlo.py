"""Backlash over many pairs made anywhere within their allowances."""

import numpy as np

import cooper

model = cooper.example("mirror-cover")
rng = np.random.default_rng(1)
names = ("E_sns", "E_sni")
limits = {i: (model[f"{names[1]}{i}"], model[f"{names[0]}{i}"]) for i in (1, 2)}
lows, highs = zip(*limits.values(), strict=True)
alpha = np.radians(model["alpha_n"])
thinned = rng.uniform(lows, highs, (20000, 2))
distance = rng.uniform(model["A_ai"], model["A_as"], 20000)
play = -thinned.sum(axis=1) / np.cos(alpha) + 2 * distance * np.tan(alpha)
print(
    f"normal backlash, mm: {play.min():.3f} to {play.max():.3f}, mean {play.mean():.3f}; 1 of 100 below "
    f"{np.quantile(play, 0.01):.3f}"
)
