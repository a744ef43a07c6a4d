"""Small builders shared by the tests."""

from __future__ import annotations

import numpy as np

from cooper.design.document import Design, Duty, Gear, Material, Mesh, Stage, Train
from cooper.gears.rack import Rack
from cooper.gears.tooth import Tooth, tip_diameter


def tooth(z, x=0.0, m=2.0, alpha=20.0, h_fP=1.25, rho=0.38, h_aP=1.0, beta=0.0, x_E=None) -> Tooth:
    rack = Rack(np.radians(alpha), h_aP, h_fP, rho)
    b = np.radians(beta)
    return Tooth(z, m, b, x, x if x_E is None else x_E, rack, tip_diameter(z, m, b, x, h_aP))


def pair(z1=17, z2=41, x1=0.32, x2=0.12, m=2.5, P=4200.0, n=1400.0, **more) -> Design:
    """A plain design; ``more`` goes to the duty."""
    case = Material(group="Eh", hardness=700)
    one = Gear(name="pinion", z=z1, x=x1, b=28, material=case)
    two = Gear(name="wheel", z=z2, x=x2, b=26)
    stage = Stage(members=(one, two), meshes=(Mesh(m_n=m),))
    return Design(name="test pair", train=Train(duty=Duty(P=P, n=n, **more), stages=(stage,)))
