"""Tip relief from the load: what runs smoothest, and what it does to the transmission error over the load."""

import numpy as np

import cooper
from cooper.editing.forms import give_relief
from cooper.results.loaded_tooth import cycle_of, loaded_ask
from cooper.results.relief import each_relief

model = cooper.example("winch")
ask = loaded_ask(model.design.train, model.results, 0, "nominal")
relief = next(each_relief(ask))[0]
print(relief.why)
quiet = cooper.Model(give_relief(model.design, 0, relief.C_a, None))
for share in (0.25, 0.5, 1.0, 1.25):
    errors = []
    for one in (model, quiet):
        a = loaded_ask(one.design.train, one.results, 0, "nominal")
        errors.append(float(np.ptp(cycle_of(a, "coarse", share * a.F).te)))
    print(f"{100 * share:4.0f} % load: {errors[0]:.2f} um without, {errors[1]:.2f} um with relief")
