"""Searches two-stage reducers for a duty and shows the lightest, with what it costs in efficiency."""

import numpy as np

import cooper

start = cooper.from_duty(1500, 1420, 12.0, 5000)
found = start.survey(arrangements=("two stages",), most=20)
print(f"{len(found)} designs of {found.possible:,} that the bounds allow")
for row in np.argsort(found.values["mass"])[:5]:
    print(
        f"{found.values['mass'][row]:7.2f} kg  u = {found.values['u'][row]:.3f}  eta = {found.values['eta'][row]:.4f}"
    )
best = start.taken(found, int(np.argmin(found.values["mass"])))
print(f"taken: {[s.name for s in best.design.train.stages]}, {best.verdict}")
