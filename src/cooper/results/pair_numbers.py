"""Everything that is computed for spur and helical pairs, external or internal, as arrays over designs.

The one function behind the Bench, the Levers and every later search. Inputs in the core's units. An internal wheel has
a negative count; its diameters and the centre distance are then negative too.
"""

from __future__ import annotations

from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape, pair_shape
from cooper.rating.iso6336.contact_strength import reduced_radius
from cooper.rating.iso6336.rate import rate
from cooper.rating.iso6336.rate_loads import add_loads
from cooper.rating.iso6336.rate_root import root_shift
from cooper.rating.lewis import lewis_form_factor, lewis_stress
from cooper.rating.plastic_teeth import rate_plastics
from cooper.running.pair_losses import add_loss_factor, add_losses
from cooper.running.pair_play import add_play, add_service_play


class PairNumbers(PairShape, frozen=True):
    """A pair rated: its shape with all values, and the input with its plastics at the temperature of their teeth."""

    pair: PairInput


def pair_numbers(p: PairInput, shape: PairShape | None = None) -> PairNumbers:
    """All numbers of pairs, added to those of their shape (None: that of the input); see the module text. No
    exceptions: what cannot be is NaN."""
    s = pair_shape(p) if shape is None else shape
    add_play(p, s.mesh, s.gears)
    add_loss_factor(p, s.mesh, s.path)
    s, p = rate(p, s)
    add_service_play(p, s.mesh, s.gears)
    add_losses(p, s.mesh, s.path)
    return PairNumbers(s.mesh, s.gears, s.teeth, s.forms, s.path, p)


def loss_numbers(p: PairInput, shape: PairShape | None = None) -> PairNumbers:
    """What pairs lose, with the values that this depends on and none besides: a third of the way of `pair_numbers`,
    and equal to it."""
    s = pair_shape(p) if shape is None else shape
    add_loss_factor(p, s.mesh, s.path)
    add_loads(p, s.mesh, s.gears)
    # A first value, from which the load factors begin.
    del s.mesh.K_V
    p = rate_plastics(p, s.mesh, s.gears)
    one, two = s.gears
    s.mesh.rho_red = reduced_radius(one.d_b, two.d_b, s.mesh.alpha_wt, s.mesh.beta_b)
    add_losses(p, s.mesh, s.path)
    return PairNumbers(s.mesh, s.gears, s.teeth, s.forms, s.path, p)


def add_lewis(p: PairInput, n: PairNumbers) -> None:
    """Lewis's factor and stress, beside the rating and not part of it: it takes longer than all the rest together."""
    for tooth, g in zip(n.teeth, n.gears, strict=True):
        Y_L = lewis_form_factor(tooth, root_shift(p, tooth, g))
        g.update(Y_L=Y_L, sigma_L=lewis_stress(n.mesh.F_t, g.b_F, p.m_n, Y_L))
