"""What a turner has to know of each piece of a shaft: diameter with its tolerance class and limits, surface, what is
worked into it."""

from __future__ import annotations

from msgspec import Struct

from cooper.i18n.text import tr
from cooper.machine.shaft_model import Joint, MadeShaft, Piece
from cooper.stock.fits import shaft_deviations, standard_tolerance
from cooper.stock.undercuts import undercut_of

THICK_END = 50.0
"""Diameter (mm) above which ends are m6 in place of k6. DIN 748-1 (ISO/R 775)."""
CENTRES = (
    (8.0, "A1.6/3.35"),
    (12.0, "A2/4.25"),
    (20.0, "A2.5/5.3"),
    (30.0, "A3.15/6.7"),
    (50.0, "A4/8.5"),
    (80.0, "A5/10.6"),
)
"""Up to which diameter of the end (mm) which centre hole is customary. ISO 6411."""
LARGEST_CENTRE = "A6.3/13.2"


class PieceSpec(Struct, frozen=True):
    """One piece: its name, tolerance class and limits (mm) of its diameter, both empty where general tolerances hold,
    roughness Ra (um, 0 for that of the rest), run-out to both bearings (mm, 0 for none), and what is worked into it."""

    piece: Piece
    tolerance: str
    upper: float
    lower: float
    Ra: float
    run_out: float
    words: str


def centre_hole(d: float) -> str:
    """The centre hole for an end of a diameter (mm).

    >>> centre_hole(13.0), centre_hole(100.0)
    ('A2.5/5.3', 'A6.3/13.2')
    """
    return next((name for up, name in CENTRES if d <= up), LARGEST_CENTRE)


def piece_specs(made: MadeShaft) -> list[PieceSpec]:
    """All pieces of a shaft from the left, as they are made.

    Classes: bearings k6, ends k6 or m6 (DIN 748-1), hubs with keys k6, press fits as their fit says, seals h11
    (DIN 3760). Grooves of retaining rings h10, h11, h12
    and h13 up to 9, 22, 100 mm and above (DIN 471).
    """
    return [_spec(made, p) for p in made.pieces]


def _spec(made: MadeShaft, p: Piece) -> PieceSpec:
    joint = next((j for j in made.joints if j.piece == p.name), None)
    letter, grade, Ra, words = "", 0, 0.0, []
    if p.kind == "bearing":
        letter, grade, Ra = "k", 6, 0.8
        own = next(b for b in made.bearings if b.name == p.name)
        words.append(tr("for {designation}", designation=own.bearing.designation))
    elif p.kind == "end":
        letter, grade, Ra = "m" if p.d > THICK_END else "k", 6, 0.8
    elif p.kind == "seal":
        letter, grade, Ra = "h", 11, 0.4
        words.append(tr("ground without lead, 45 HRC and more"))
    elif joint is not None and joint.kind != "integral":
        fit = joint.fit.partition("/")[2] if joint.fit else "k6"
        letter, grade, Ra = fit[0], int(fit[1:]), 0.8
    if joint is not None:
        words += _joined(joint, p)
    if p.kind == "thread":
        nut = next((n for q, n in made.nuts if q.name == p.name), None)
        if nut is not None:
            words.append(tr("M{d:g} x {P:g}, 6g, with the groove of its tab washer", d=nut.d, P=nut.P))
    ring = next((r for q, r in made.rings if q.name == p.name), None)
    upper = lower = 0.0
    tolerance = ""
    if ring is not None:
        grade = 10 if ring.d <= 9 else 11 if ring.d <= 22 else 12 if ring.d <= 100 else 13
        tolerance, lower = tr("h{grade}", grade=grade), -standard_tolerance(p.d, grade)
        words.append(tr("groove {m:g} H13 for {name}", m=ring.m, name=ring.designation))
    elif letter == "h":
        tolerance, lower = tr("h{grade}", grade=grade), -standard_tolerance(p.d, grade)
    elif letter:
        limits = shaft_deviations(p.d, letter, grade)
        if limits is not None:
            tolerance, (upper, lower) = tr("{letter}{grade}", letter=letter, grade=grade), limits
    if p.undercut:
        words.append(tr("undercut DIN 509, {name}", name=undercut_of(p.undercut, p.d).name))
    if p.hole:
        words.append(tr("hole ⌀{d:g} across", d=p.hole))
    run_out = round(standard_tolerance(p.d, 6), 3) if p.kind in ("seat", "end", "seal") else 0.0
    return PieceSpec(p, tolerance, upper, lower, Ra, run_out, "; ".join(words))


def _joined(j: Joint, p: Piece) -> list[str]:
    """What a joint works into its piece."""
    if j.kind in ("key", "two keys"):
        start = p.at - j.length / 2 - p.start
        many = tr("2 keyways") if j.kind == "two keys" else tr("keyway")
        return [
            tr(
                "{many} {b:g} P9 x {length:g}, {t_1:g} deep, {start:g} from its left end, DIN 6885-1",
                many=many,
                b=j.b,
                length=j.length,
                t_1=j.t_1,
                start=round(start, 3),
            )
        ]
    if j.kind == "spline":
        return [tr("spline DIN 5480, {d:g} x {m:g} x {z}", d=j.d, m=j.m, z=j.z)]
    if j.kind == "pin":
        return [tr("hole ⌀{d:g} H7 across, with the hub", d=j.d_pin)]
    return []
