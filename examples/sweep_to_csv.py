"""A table of contact ratio, safeties and efficiency over the helix angle. Run: python examples/sweep_to_csv.py
[FILE]"""

import csv
import sys

import cooper

names = ("beta", "eps_gamma", "S_F1", "S_H1", "eta_z", "F_a")
out = open(sys.argv[1], "w", newline="") if len(sys.argv) > 1 else sys.stdout  # noqa: SIM115
table = csv.writer(out)
table.writerow([f"{n} [{cooper.example('winch').unit(n)}]" for n in names])
for beta in range(0, 31, 5):
    model = cooper.example("winch").set({"stage1.beta": beta})
    table.writerow([f"{model.get(n, 0.0):.4g}" for n in names])
