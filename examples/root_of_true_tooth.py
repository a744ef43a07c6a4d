"""The root stress of the true tooth beside ISO 6336-3, AGMA and Lewis, at the same load."""

import cooper
from cooper.field.stress_field import field_basis
from cooper.results.loaded_tooth import loaded_ask
from cooper.results.root_comparison import root_comparison

model = cooper.example("mirror-cover")
ask = loaded_ask(model.design.train, model.results, 0, "nominal")
for i in (0, 1):
    basis = field_basis(ask.bodies[i])
    print(f"gear {i + 1}, error of the field {100 * basis.error:.1f} %")
    for row in root_comparison(model.results.stages[0], i, basis, ask).rows:
        print(f"  {row.words:28} {row.sigma:7.1f} MPa")
