"""Sizes of what joins hubs to shafts: parallel keys, involute splines, set screws."""

from __future__ import annotations

from math import floor

from msgspec import Struct

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.stock.files import load


class KeySize(Struct, frozen=True):
    """Width and height of a parallel key, its depth in shaft and hub; mm."""

    b: float
    h: float
    t_1: float
    t_2: float


def key_size(d: float) -> KeySize:
    """The parallel key that the standard gives a shaft of diameter d (mm). DIN 6885-1; raises `OutOfRange` beyond 6
    to 230 mm.

    >>> key_size(35.0)
    KeySize(b=10, h=8, t_1=5.0, t_2=3.3)
    """
    rows = load("parallel_keys")["rows"]
    for over, up_to, b, h, t_1, t_2 in rows:
        if over < d <= up_to:
            return KeySize(b, h, t_1, t_2)
    raise OutOfRange(
        "d", d, tr("the table of keys ends there"), low=rows[0][0] + 0.1, high=float(rows[-1][1]), unit="mm"
    )


def key_lengths() -> tuple[float, ...]:
    """Standard lengths of parallel keys; mm."""
    return tuple(float(v) for v in load("parallel_keys")["lengths"])


class SplineSize(Struct, frozen=True):
    """An involute spline of 30 degrees: reference diameter of its bore, module, count, pitch and tip diameter of the
    shaft; mm."""

    d_B: float
    m: float
    z: int

    @property
    def d(self) -> float:
        """Pitch diameter m z."""
        return self.m * self.z

    @property
    def d_a(self) -> float:
        """Tip diameter of the shaft: d_B - 0.2 m."""
        return self.d_B - 0.2 * self.m

    @property
    def d_f(self) -> float:
        """Root diameter of the shaft cut with a hob: d_B - 2.2 m."""
        return self.d_B - 2.2 * self.m


def spline_size(d_B: float) -> SplineSize:
    """The involute spline that is usual for a reference diameter (mm). DIN 5480-1: z = floor(d_B / m - 1.1), at
    least 6.

    >>> spline_size(30.0)
    SplineSize(d_B=30.0, m=1.25, z=22)
    """
    data = load("splines")["involute"]
    m = next((m for up, m in zip(data["up_to_d_B"], data["m"], strict=True) if d_B <= up), data["m"][-1])
    return SplineSize(d_B, m, max(floor(d_B / m - 1.1 + 1e-9), 6))


class ScrewSize(Struct, frozen=True):
    """A set screw with cup point: thread, pitch, diameter of the point (mm), and the torque that it bears when it is
    tested (N m)."""

    d: float
    P: float
    d_z: float
    M_test: float


def screw_sizes() -> tuple[ScrewSize, ...]:
    """Set screws from the thinnest to the thickest. ISO 4029, ISO 898-5.

    >>> screw_sizes()[2]
    ScrewSize(d=5.0, P=0.8, d_z=2.5, M_test=5.0)
    """
    return tuple(ScrewSize(*map(float, row)) for row in load("set_screws")["rows"])


def screw_size(d: float) -> ScrewSize:
    """The set screw of a thread (mm); raises `OutOfRange` for one that is not in the table."""
    for one in screw_sizes():
        if abs(one.d - d) < 1e-9:
            return one
    text = ", ".join(tr("M{d:g}", d=one.d) for one in screw_sizes())
    raise OutOfRange(
        "d_screw",
        d,
        tr("there are set screws {told}", told=text),
        low=screw_sizes()[0].d,
        high=screw_sizes()[-1].d,
        unit="mm",
    )
