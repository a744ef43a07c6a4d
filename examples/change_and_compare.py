"""Changes a few things one after the other and shows what each does to two safeties."""

import cooper

model = cooper.example("mirror-cover")
print(f"{'as it is':24} S_F1 {model['S_F1']:.2f}  S_H1 {model['S_H1']:.2f}")
for name, value in {"b_1": 14, "b_2": "13 mm", "rho_fP1": 0.45, "x_1": 0.4}.items():
    model = model.set({name: value})
    print(f"{f'{name} = {value}':24} S_F1 {model['S_F1']:.2f}  S_H1 {model['S_H1']:.2f}")
print(f"verdict: {model.verdict}")
