"""The load on all flanks of a pair through a whole mesh: teeth that give way, coupled slices along the face, Hertz
along the line.

At every position those points bear whose gap is closed and that are pressed; together they carry the torque. Points
past the ends of the involutes, at tip edges, do not bear.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Index, Marks
from cooper.field.compliance import Compliance, pressed_in

POSITIONS = 64
"""Positions over one pitch."""
SLICES = 20
ROUNDS = 14
"""How often the points that bear are sought anew at one position."""
REFINED = 3
"""How often the width of the contact is found anew from its load."""
REACH = 1.0
"""How far along the face a slice takes its neighbours along, over the height of the tooth: as a plate that is held
at one edge."""


class Meshing(Struct, frozen=True, kw_only=True):
    """A pair as its contact is found: ends A and E of the path and T2 from the first gear's base tangent point (mm),
    p_et (mm), width b, tan beta_b (positive where contact runs ahead at the right end), ``F`` the force in the
    transverse plane (N), heights of both teeth ``h`` (mm), ``tan_alpha_a`` of the profile angles at the tips that meet
    at A (the driven gear's) and at E (the driver's), ``cos_b`` cos beta_b, and ``gap`` what separates both flanks at
    path coordinate, place along the face and number of the pair (um)."""

    A: float
    E: float
    T2: float
    p_et: float
    b: float
    tan_beta_b: float
    F: float
    h: tuple[float, float]
    gap: Callable[[Array, Array, Index], Array]
    tan_alpha_a: tuple[float, float]
    cos_b: float = 1.0
    slices: int = SLICES
    positions: int = POSITIONS


class MeshCycle(Struct, frozen=True):
    """A whole mesh: ``turn`` of the first gear over its pitch (positions; 0 to 1), numbers of the pairs, ``g`` path
    coordinates (positions, pairs, slices; mm), ``w`` line load (N/mm) on the ``part`` (0 to 1) of each slice that is
    between A and E, ``p`` pressure (MPa), ``te`` how far the driven gear lags along the line of action (positions; um),
    ``c`` mesh stiffness (positions; N/(mm um)), ``sigma`` root stress of both gears at every slice of the pair that is
    in the middle (2, positions, pairs, slices; MPa), ``y`` middles of the slices from the left end (mm), ``early`` how
    far outside A and E (mm along the path) the deflected teeth would touch already, with tip edges that are not counted
    as bearing. ``off`` by how much the peak to peak of ``te`` (um) and the largest ``p`` (share of it) differ from
    those of the coarser answer before; NaN where there is none."""

    turn: Array
    pairs: Index
    g: Array
    w: Array
    p: Array
    te: Array
    c: Array
    sigma: Array
    y: Array
    early: tuple[float, float]
    part: Array
    off: tuple[float, float] = (float("nan"), float("nan"))

    @property
    def share(self) -> Array:
        """Share of the load that each pair bears (positions, pairs)."""
        whole = (self.w * self.part).sum(axis=-1)
        return np.asarray(whole / whole.sum(axis=-1, keepdims=True))


def coupling(y: Array, b: float, reach: float) -> Array:
    """How much of a load at one slice is felt at another, each row and column in all 1.

    Parameters
    ----------
    y : Array
        Middles of the slices (mm).
    b : float
        Face width (mm).
    reach : float
        Length over which it falls off by e (mm).

    Returns
    -------
    Array
        Matrix (slices, slices).

    Notes
    -----
    A stretched string on springs with free ends. An even load gives an even deflection, as in the plane.

    Examples
    --------
    >>> np.round(coupling(np.array([2.5, 7.5]), 10.0, 1e-3), 6).tolist(), np.round(coupling(np.array([2.5, 7.5]), 10.0, 1e4), 3).tolist()
    ([[1.0, 0.0], [0.0, 1.0]], [[0.5, 0.5], [0.5, 0.5]])
    """  # noqa: E501
    n = len(y)
    d = b / n
    k = (reach / d) ** 2
    string = np.zeros((n, n))
    i = np.arange(n - 1)
    string[i, i] += k
    string[i + 1, i + 1] += k
    string[i, i + 1] -= k
    string[i + 1, i] -= k
    return np.asarray(np.linalg.inv(np.eye(n) + string))


def felt(y: Array, width: Array, b: float, reach: float) -> Array:
    """Deflection at the slices for a load on another, over that of the whole face under it as an even line load, times
    the width b.

    Parameters
    ----------
    y : Array
        Middles of the slices (..., slices; mm).
    width : Array
        Widths of the slices (..., slices; mm).
    b : float
        Face width (mm).
    reach : float
        Length over which it falls off by e (mm).

    Returns
    -------
    Array
        Matrices (..., slices, slices; 1/mm).

    Notes
    -----
    The stretched string on springs of `coupling` in closed form, u - reach^2 u'' = f with free ends, whose answer at y
    for a force at y' is (cosh((b - |y - y'|)/reach) + cosh((b - y - y')/reach)) / (2 reach sinh(b/reach)): its mean
    over the places that both take up.

    Examples
    --------
    >>> round(float(felt(np.array([5.0]), np.array([10.0]), 10.0, 2.0)[0, 0]), 12)
    0.1
    """
    a = 1 / reach
    # Of wide faces e^(-b a) is taken out, so that no number becomes too large.
    below = 1 - np.exp(-2 * a * b)
    one, other, w_1, w_2 = y[..., :, None], y[..., None, :], width[..., :, None], width[..., None, :]
    s_1, s_2 = (np.sinh(a * w / 2) / (a * w / 2) for w in (w_1, w_2))
    apart, both = np.abs(one - other), one + other
    mirror = (np.exp(-a * both) + np.exp(a * (both - 2 * b))) * s_1 * s_2
    direct = (np.exp(-a * apart) + np.exp(a * (apart - 2 * b))) * s_1 * s_2
    # One slice on itself: the mean over all pairs of its places.
    w = (w_1 + w_2) / 2
    v = a * w
    inner = 2 / v**2 * (v * below - (1 + np.exp(-2 * a * b)) + np.exp(-v) + np.exp(v - 2 * a * b))
    inner = np.where(v < 1e-3, (1 + np.exp(-2 * a * b)) - v / 3 * below, inner)
    same = np.eye(y.shape[-1], dtype=bool)
    return np.asarray((np.where(same, inner, direct) + mirror) / (2 * reach * below))


def _between(L: Array, table: Array, x: Array, y: Array) -> Array:
    """A table over stations, at places x and y, linear between them."""
    t_x, t_y = (np.clip((v - L[0]) / (L[1] - L[0]), 0, len(L) - 1 - 1e-9) for v in (x, y))
    i, j = t_x.astype(int), t_y.astype(int)
    u, v = t_x - i, t_y - j
    return np.asarray(
        (1 - u) * (1 - v) * table[i, j]
        + u * (1 - v) * table[i + 1, j]
        + (1 - u) * v * table[i, j + 1]
        + u * v * table[i + 1, j + 1]
    )


def _along(L: Array, rows: Array, x: Array) -> Array:
    """Rows over stations at places x, linear between them."""
    t = np.clip((x - L[0]) / (L[1] - L[0]), 0, len(L) - 1 - 1e-9)
    i = t.astype(int)
    u = (t - i)[(...,) + (None,) * (rows.ndim - 1)]
    return np.asarray((1 - u) * rows[i] + u * rows[i + 1])


def mesh_cycle(m: Meshing, one: Compliance, two: Compliance) -> MeshCycle:
    """The whole mesh cycle of a pair under load.

    Parameters
    ----------
    m : Meshing
        The mesh with its load, forms and stiffness.
    one : Compliance
        Influence numbers of the pinion.
    two : Compliance
        Influence numbers of the wheel.

    Returns
    -------
    MeshCycle
        Loads, transmission error (um), stiffness and stresses over one pitch.
    """
    y = (np.arange(m.slices) + 0.5) * m.b / m.slices
    d = m.b / m.slices
    turn = np.arange(m.positions) / m.positions
    along_face = (y - m.b / 2) * m.tan_beta_b
    low = int(np.floor((-abs(m.tan_beta_b) * m.b / 2 - (m.E - m.A)) / m.p_et)) - 1
    high = int(np.ceil(((m.E - m.A) + abs(m.tan_beta_b) * m.b / 2) / m.p_et)) + 1
    pairs = np.arange(low, high + 1)
    g = m.A + (turn[:, None, None] + pairs[:, None]) * m.p_et + along_face
    over = abs(m.tan_beta_b) * d / 2 + 1e-9
    used = ((g >= m.A - over) & (g <= m.E + over)).any(axis=(0, 2))
    pairs, g = pairs[used], g[:, used]
    g, part, at = on_path(g, y, m.A, m.E, m.tan_beta_b, d)
    inside = part > LEAST_PART
    gap = m.gap(g, at, pairs[None, :, None]) / 1000
    P, N, K = g.shape
    flat = N * K
    ratio_1, ratio_2 = (coupling(y, m.b, REACH * h) for h in m.h)
    width = np.where(inside, part * d, d)
    L_1, L_2 = g, np.abs(m.T2 - g)
    give = np.zeros((P, N, K, N, K))
    for n in range(N):
        for q in range(N):
            step = q - n
            if abs(step) > 1:
                continue
            along, wide = (at[:, n] + at[:, q]) / 2, (width[:, n] + width[:, q]) / 2
            for comp, L, h in ((one, L_1, m.h[0]), (two, L_2, m.h[1])):
                G = comp.G[1 + step]
                ratio = felt(along, wide, m.b, REACH * h)
                give[:, n, :, q, :] += _between(comp.L, G.T, L[:, n, :, None], L[:, q, None, :]) * ratio
    C = give.reshape(P, flat, flat)
    C = (C + C.transpose(0, 2, 1)) / 2
    # The contact is pressed in the normal section.
    rho = np.abs(g * (m.T2 - g) / m.T2) / m.cos_b
    rho = np.maximum(rho, 1e-3 * m.p_et)
    stiff = (1 - one.nu**2) / one.E + (1 - two.nu**2) / two.E
    h_1, h_2 = _along(one.L, one.h, L_1), _along(two.L, two.h, L_2)
    # A first guess of the contact's width: the load spread over all points in reach.
    width = width.reshape(P, flat)
    load = np.where(
        inside, part * m.F / np.maximum((part * inside).sum(axis=(1, 2), keepdims=True), 1e-9), 0.0
    ).reshape(P, flat)
    bears: Marks = inside.reshape(P, flat)
    te = np.zeros(P)
    shown, allowed = gap.reshape(P, flat), inside.reshape(P, flat)
    A = C
    i = np.arange(flat)
    for _ in range(REFINED):
        line = np.maximum((load / width).reshape(P, N, K), 1e-3 * m.F / m.b)
        a = np.sqrt(4 * line * rho * stiff / np.pi)
        local = pressed_in(a, np.maximum(h_1, 2 * a), one.E, one.nu) + pressed_in(
            a, np.maximum(h_2, 2 * a), two.E, two.nu
        )
        A = C.copy()
        A[:, i, i] += np.maximum(local / m.cos_b, 0.0).reshape(P, flat) / width
        load, te, bears = _solve(A, shown, allowed, bears, m.F)
    mean = load.reshape(P, N, K) / d
    w = (load / width).reshape(P, N, K)
    p = np.sqrt(np.maximum(w, 0.0) / (np.pi * rho * stiff))
    # Pressed in by d(w local)/dw = local - (1 - nu^2)/(pi E), as the patch widens with the root of its load.
    A[:, i, i] -= np.where(bears, stiff / np.pi / m.cos_b / width, 0.0)
    c = _stiffness(A, bears) / m.b / 1000
    sigma = np.zeros((2, P, N, K))
    for k, (comp, L, ratio) in enumerate(((one, L_1, ratio_1), (two, L_2, ratio_2))):
        unit = _along(comp.L, comp.sigma, L)
        along = np.einsum("kl,pnl,pnlf->pnkf", ratio, mean, unit, optimize=True)
        sigma[k] = along.max(axis=-1)
    return MeshCycle(turn, pairs, g, w, p, 1000 * te, c, sigma, y, _early(m, te, y), part)


LEAST_PART = 1e-3
"""Share of a slice that must be between A and E for it to bear."""


def on_path(g: Array, y: Array, A: float, E: float, tan_beta_b: float, d: float) -> tuple[Array, Array, Array]:
    """The parts of the slices that are on the path of contact.

    Parameters
    ----------
    g : Array
        Middles of whole slices (positions, pairs, slices; mm).
    y : Array
        Places of the slices along the face (mm).
    A : float
        Start of the path (mm).
    E : float
        End of the path (mm).
    tan_beta_b : float
        Slope of the contact lines.
    d : float
        Width of a slice (mm).

    Returns
    -------
    tuple[Array, Array, Array]
        Path coordinates of the middles of these parts (mm), the parts (0 to 1), and their places along the face (mm).

    Notes
    -----
    A slice that enters the path whole would jump in and out of contact; by parts the load of a helical mesh passes over
    evenly however few the slices are.

    Examples
    --------
    >>> [v.tolist() for v in on_path(np.array([[[-0.25, 1.0]]]), np.array([1.0, 3.0]), 0.0, 5.0, 0.5, 2.0)]
    [[[[0.125, 1.0]]], [[[0.25, 1.0]]], [[[1.75, 3.0]]]]
    """
    half = abs(tan_beta_b) * d / 2
    if half == 0:
        return g, ((g >= A - 1e-9) & (g <= E + 1e-9)).astype(float), np.broadcast_to(y, g.shape)
    low, high = np.maximum(g - half, A), np.minimum(g + half, E)
    part = np.clip((high - low) / (2 * half), 0.0, 1.0)
    middle = np.where(part > 0, (low + high) / 2, g)
    return middle, part, y + (middle - g) / tan_beta_b


def _early(m: Meshing, te: Array, y: Array) -> tuple[float, float]:
    """How far outside A and E tip edges would touch already (mm along the path): a tip edge leaves the line of
    action along its tip circle, and so sideways by s tan(alpha_a); its mate's flank, whose radius of curvature relative
    to it is rho, stands back by s^2 tan^2(alpha_a) / (2 rho), to the second order."""
    result = []
    for end, tan_a in zip((m.A, m.E), m.tan_alpha_a, strict=True):
        rho = max(abs(end * (m.T2 - end) / m.T2), 1e-6) / tan_a**2
        bare = m.gap(np.full(len(y), end), y, np.zeros(len(y), dtype=np.intp)).min() / 1000
        result.append(float(np.sqrt(2 * rho * max(float(te.max()) - float(bare), 0.0))))
    return result[0], result[1]


def _solve(A: Array, gap: Array, allowed: Marks, bears: Marks, F: float) -> tuple[Array, Array, Marks]:
    """Loads (positions, points; N), approach (positions; mm) and what bears: A load + gap = approach where it bears,
    all loads together F."""
    P, n = gap.shape
    eye = np.eye(n)
    load, te = np.zeros((P, n)), np.zeros(P)
    bears = bears & allowed
    for _ in range(ROUNDS):
        both = bears[:, :, None] & bears[:, None, :]
        system = np.zeros((P, n + 1, n + 1))
        system[:, :n, :n] = np.where(both, A, 0.0) + np.where(bears[:, :, None], 0.0, eye)
        system[:, :n, n] = np.where(bears, -1.0, 0.0)
        system[:, n, :n] = np.where(bears, 1.0, 0.0)
        right = np.concatenate((np.where(bears, -gap, 0.0), np.full((P, 1), F)), axis=1)
        result = np.linalg.solve(system, right[..., None])[..., 0]
        load, te = result[:, :n], result[:, n]
        closed = te[:, None] - gap - np.einsum("pij,pj->pi", A, load)
        again = np.where(bears, load > 0, closed > 1e-12) & allowed
        if bool(np.all(again == bears)):
            break
        # Nothing that bears alone is let go.
        bears = np.where(again.any(axis=1, keepdims=True), again, bears)
    return np.maximum(load, 0.0), te, bears


def _stiffness(A: Array, bears: Marks) -> Array:
    """Force for one more mm of approach while the same points bear (positions; N/mm)."""
    n = A.shape[-1]
    both = bears[:, :, None] & bears[:, None, :]
    system = np.where(both, A, 0.0) + np.where(bears[:, :, None], 0.0, np.eye(n))
    one = np.where(bears, 1.0, 0.0)
    return np.asarray(np.einsum("pi,pi->p", one, np.linalg.solve(system, one[..., None])[..., 0]))


def orders(te: Array, count: int = 6) -> Array:
    """Amplitudes of the mesh frequency and its multiples in a transmission error over one pitch.

    Parameters
    ----------
    te : Array
        Transmission error over one pitch (um).
    count : int
        Number of amplitudes.

    Returns
    -------
    Array
        Amplitudes (um).

    Examples
    --------
    >>> t = np.arange(32) / 32
    >>> [round(float(v), 6) for v in orders(5 + 3 * np.cos(2 * np.pi * t) + np.sin(4 * np.pi * t), 3)]
    [3.0, 1.0, 0.0]
    """
    result = np.abs(np.fft.rfft(te)) * 2 / len(te)
    return np.asarray(result[1 : count + 1])


def largest_near(g: Array, at: Array, values: Array, reach: float) -> Array:
    """The largest of the values that stand within a reach of each place; between places where none does, on a line.

    Parameters
    ----------
    g : Array
        Places that are asked for (mm).
    at : Array
        Places of the values (mm).
    values : Array
        Values.
    reach : float
        Greatest distance (mm).

    Returns
    -------
    Array
        Values at g.

    Examples
    --------
    >>> largest_near(np.array([0.0, 1.0, 2.0]), np.array([0.1, 0.2, 1.9]), np.array([5.0, 7.0, 3.0]), 0.3).tolist()
    [7.0, 5.0, 3.0]
    """
    order = np.argsort(at)
    at, values = at[order], values[order]
    first, last = np.searchsorted(at, g - reach), np.searchsorted(at, g + reach, side="right")
    some = last > first
    if not some.any():
        return np.zeros(len(g))
    # Between a pair of bounds the first part of each row counts.
    bounds = np.column_stack((first[some], np.minimum(last[some], len(at)))).ravel()
    result = np.maximum.reduceat(np.append(values, -np.inf), bounds)[::2]
    return np.asarray(np.interp(g, g[some], result))
