"""Rolling bearings by type, series and bore: boundary dimensions, and typical inner ones."""

from __future__ import annotations

from functools import cache
from math import floor, pi, radians, sin

from msgspec import Struct

from cooper.i18n.text import tr
from cooper.stock.files import load


class Bearing(Struct, frozen=True, kw_only=True):
    """One bearing: bore ``d``, outside ``D``, width ``B``, pitch circle ``D_pw``, rolling elements ``D_w`` (mm),
    ``Z`` in each of ``i`` rows, their effective length ``L_we`` (0: balls), nominal contact angle ``alpha`` (rad);
    ``b_m`` of its rating, typical limit ``n_dpw`` (mm/min), least chamfer ``r_s`` (mm), customary limit of misalignment
    ``slope`` (rad), whether it bears thrust, whether it is adjusted against another one, rough ``cost`` of its type for
    its mass."""

    type: str
    series: str
    d: float
    D: float
    B: float
    D_pw: float
    D_w: float
    Z: int
    i: int
    L_we: float
    alpha: float
    b_m: float
    n_dpw: float
    r_s: float
    slope: float
    thrust: bool
    adjusted: bool
    cost: float
    h_a: float
    """Least height of the shaft's shoulder against its inner ring (DIN 5418); mm."""
    rim: float
    """How far the inner ring's rim lies below the pitch circle, in diameters of the rolling element; typical."""

    @property
    def d_a_min(self) -> float:
        """Least diameter of the shoulder against its inner ring; mm."""
        return self.d + 2 * self.h_a

    @property
    def d_a_max(self) -> float:
        """Greatest diameter of that shoulder with which the ring can still be pulled; mm, typical."""
        return max(self.D_pw - self.rim * self.D_w, self.d_a_min)

    @property
    def designation(self) -> str:
        """What it is ordered by (DIN 623-1): the series and the bore's number.

        >>> [bearing_of("deep groove ball", s, d).designation for s, d in (("02", 30.0), ("10", 8.0), ("19", 10.0))]
        ['6206', '608', '61900']
        """
        code, d = load("rolling_bearings")["designations"][self.type][self.series], self.d
        if d < 10:
            return f"{code}/{d:g}" if len(code) > 2 else f"{code}{d:g}"
        number = {10.0: "00", 12.0: "01", 15.0: "02", 17.0: "03"}.get(d, f"{round(d / 5):02d}")
        return f"{code}{number}"

    @property
    def rollers(self) -> bool:
        return self.L_we > 0

    @property
    def name(self) -> str:
        """Type, dimension series and size.

        >>> bearing_of("deep groove ball", "02", 30.0).name
        'deep groove ball 30 x 62 x 16'
        """
        return tr("{type} {d:g} x {D:g} x {B:g}", type=self.type, d=self.d, D=self.D, B=self.B)

    @property
    def mass(self) -> float:
        """Mass (kg), typical: three quarters of the ring between bore and outside filled with steel, of balls three
        fifths."""
        return (0.75 if self.rollers else 0.6) * 7.85e-6 * pi / 4 * (self.D**2 - self.d**2) * self.B

    @property
    def n_limit(self) -> float:
        """Typical limit of speed (1/min)."""
        return self.n_dpw / self.D_pw


def rolling_types() -> tuple[str, ...]:
    """The types in the data file."""
    return tuple(load("rolling_bearings")["types"])


def series_of(kind: str) -> tuple[str, ...]:
    """Dimension series of a type, from the lightest to the heaviest."""
    return tuple(load("rolling_bearings")["types"][kind]["series"])


@cache
def bearings_of(kind: str, series: str) -> tuple[Bearing, ...]:
    """All bearings of a type and dimension series, by bore."""
    data = load("rolling_bearings")
    row = data["types"][kind]
    result = []
    for d, D, B in row["series"][series]:
        small = row.get("D_w_small", {}).get(series, [])
        D_w, D_pw = next((share for up, share in small if d <= up), row["D_w"]) * (D - d), (D + d) / 2
        alpha = radians(row["alpha"])
        L_we = row["L_w"] * B if row["rollers"] else 0.0
        r_s = next(r for up, r in data["chamfers"][series] if d <= up)
        Z = floor(row["fill"] * pi / _asin(D_w / D_pw))
        result.append(
            Bearing(
                type=kind,
                series=series,
                d=d,
                D=D,
                B=B,
                D_pw=D_pw,
                D_w=D_w,
                Z=Z,
                i=row["rows"],
                L_we=L_we,
                alpha=alpha,
                b_m=row["b_m"],
                n_dpw=row["n_dpw"],
                r_s=r_s,
                h_a=_shoulder(series, r_s),
                rim=data["abutment"]["ring"]["rollers" if row["rollers"] else "balls"],
                slope=row["slope"],
                thrust=row["thrust"],
                adjusted=row.get("adjusted", False),
                cost=row["cost"],
            )
        )
    return tuple(result)


def _shoulder(series: str, r_s: float) -> float:
    """Least height of a shoulder for a chamfer, by the diameter series (DIN 5418); mm."""
    table = load("rolling_bearings")["abutment"]
    kind = "light" if series in table["light_series"] else "heavy" if series in table["heavy_series"] else "usual"
    return float(table[kind][table["r_s"].index(r_s)])


def _asin(share: float) -> float:
    """Half the angle that a rolling element takes of the pitch circle, over which they are filled in."""
    from math import asin

    return asin(min(share, sin(1.5)))


def bearing_of(kind: str, series: str, d: float) -> Bearing | None:
    """The bearing of a type and series with the bore d (mm); None where there is none."""
    return next((b for b in bearings_of(kind, series) if b.d == d), None)


@cache
def bores_of(kind: str) -> tuple[float, ...]:
    """The bores of a type, over all its series; mm."""
    return tuple(sorted({b.d for s in series_of(kind) for b in bearings_of(kind, s)}))
