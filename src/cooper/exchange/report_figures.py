"""The pictures of a report as SVG in its own hand: the train, a mesh with its path of contact, margins, losses,
shafts."""

from __future__ import annotations

from html import escape

import numpy as np
from msgspec import Struct

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.document.quantities import parts
from cooper.document.units import KINDS, number, screen_unit
from cooper.errors import OutOfRange
from cooper.exchange.body import bodies
from cooper.exchange.report import Picture
from cooper.exchange.report_plots import loaded_svg
from cooper.exchange.train import placed_bodies
from cooper.field.elastic import von_mises
from cooper.field.raster import boundary_of, isolines, raster_of, triangles_of
from cooper.field.shades import nice, shade_table
from cooper.field.stress_field import field_basis
from cooper.field.tooth_grid import USUAL
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.machine.shaft_model import MadeShaft
from cooper.results.loaded_tooth import loaded_ask
from cooper.results.result_tree import Results
from cooper.results.root_comparison import load_place

INK, MUTED, LINE, PAPER = "#22303a", "#6d7880", "#c9c2b4", "#fffdf8"
COPPER, DRIVER, DRIVEN = "#a85420", "#e6ecef", "#f1e7d8"
OF_VERDICT = {"holds": "#3d7a5a", "thin": "#b07a18", "short": "#b3402e"}


def figure(picture: Picture, design: Design, results: Results, system: str = "mm") -> str:
    """A picture of the report as SVG; empty where there is nothing to be seen."""
    if picture.name == "mesh":
        return mesh_svg(design, results, picture.number)
    if picture.name == "train":
        return train_svg(design, results)
    if picture.name == "margins":
        return margins_svg(results, system)
    if picture.name == "losses":
        return losses_svg(results, system)
    if picture.name == "stress":
        return stress_svg(design, results, picture.number)
    if picture.name == "loaded":
        return loaded_svg(design, results, picture.number, system)
    if picture.name == "shaft" and results.machine is not None:
        return shaft_svg(results.machine.shafts[picture.number].made)
    return ""


def _page(body: str, box: tuple[float, float, float, float], wide: float) -> str:
    """An SVG of a box (left, top, width, height) that is ``wide`` pixels wide."""
    left, top, w, h = box
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.0f}" height="{wide * h / w:.1f}" '
        f'viewBox="{left:.4f} {top:.4f} {w:.4f} {h:.4f}" font-family="Lato, sans-serif">{body}</svg>'
    )


def _text(x: float, y: float, words: str, size: float, color: str = INK, anchor: str = "start") -> str:
    words = translate(words)
    return (
        f'<text x="{x:.3f}" y="{y:.3f}" font-size="{size:.3f}" fill="{color}" '
        f'text-anchor="{anchor}">{escape(words)}</text>'
    )


def _path(points: Array, closed: bool = True) -> str:
    return f"M{'L'.join(f'{x:.3f} {-y:.3f}' for x, y in points.tolist())}{'Z' if closed else ''}"


def train_svg(design: Design, results: Results) -> str:
    """The whole train in end view, true to scale."""
    parts_, boxes = [], []
    for n, (body, places, _k) in enumerate(placed_bodies(design, results)):
        m_n = float(body.tooth.m_n)
        points = body.outline(0.03 * m_n)
        for x, y, _z, angle in places:
            c, s = np.cos(angle), np.sin(angle)
            at = points @ np.array([[c, s], [-s, c]]) + [x, y]
            boxes.append((at.min(axis=0), at.max(axis=0)))
            color = (DRIVER, DRIVEN)[n % 2]
            ring = body.edge > 0 and body.section.inward
            r = body.edge / 2
            hole = (
                tr(
                    "M{x:.3f} {y:.3f}a{r:.3f} {r:.3f} 0 1 0 {r_2:.3f} 0a{r:.3f} {r:.3f} 0 1 0 {r_3:.3f} 0Z",
                    x=x - r,
                    y=-y,
                    r=r,
                    r_2=2 * r,
                    r_3=-2 * r,
                )
                if r > 0
                else ""
            )
            if ring:
                boxes.append((np.array([x - r, y - r]), np.array([x + r, y + r])))
            parts_.append(f'<path d="{_path(at)}{hole}" fill="{color}" fill-rule="evenodd"/>')
    low, high = np.min([b[0] for b in boxes], axis=0), np.max([b[1] for b in boxes], axis=0)
    edge = 0.02 * float(max(high - low))
    w, h = (high - low) + 2 * edge
    group = f'<g stroke="{INK}" stroke-width="{w / 900:.4f}" stroke-linejoin="round">{"".join(parts_)}</g>'
    return _page(group, (low[0] - edge, -high[1] - edge, w, h), 620)


def _within(points: Array, box: tuple[float, float, float, float]) -> list[Array]:
    """The runs of a closed outline that lie in a box (left, right, low, high)."""
    left, right, low, high = box
    closed = np.vstack((points, points[:1]))
    inside = (closed[:, 0] > left) & (closed[:, 0] < right) & (closed[:, 1] > low) & (closed[:, 1] < high)
    if inside.all():
        return [closed]
    # Begin outside, so that no run is cut at the outline's first point.
    first = int(np.argmin(inside))
    closed, inside = np.roll(closed[:-1], -first, axis=0), np.roll(inside[:-1], -first)
    edges = np.flatnonzero(np.diff(np.concatenate(([False], inside, [False])).astype(int)))
    return [closed[max(a - 1, 0) : b + 1] for a, b in zip(edges[::2], edges[1::2], strict=True)]


class Close(Struct, frozen=True):
    """A place of a mesh to look at (x, y), half the height that is seen (mm), and the circles that are named there,
    by gear (1, 2) and symbol."""

    x: float
    y: float
    half: float
    circles: tuple[tuple[int, str], ...] = ()


CIRCLES = tuple((i, symbol) for i in (1, 2) for symbol in ("d_w", "d_b"))
DASHES = {"d_w": "6 2 1 2", "d_b": "2 2", "d_Nf": "5 2"}


def mesh_svg(design: Design, results: Results, k: int, close: Close | None = None, clip: bool = True) -> str:
    """The mesh close up with circles, line of action and path of contact; A and E its ends, B and D where single
    contact begins and ends.

    ``close`` looks nearer at one place. Without ``clip`` what lies outside the page is left to the reader to cut off.
    """
    stage = results.stages[k]
    m, m_n = stage.mesh, float(stage.mesh.m_n)
    ends = [stage.action_point(float(m[g]), 1) for g in ("g_A", "g_E")]
    middle = np.mean(ends, axis=0)
    half = max(4.2 * m_n, 0.75 * abs(ends[0][0] - ends[1][0]) + 2 * m_n, 0.75 * abs(ends[0][1] - ends[1][1]) + 2 * m_n)
    if close is not None:
        middle, half = np.array([close.x, close.y]), close.half
    w, h = 2.6 * half, 2 * half
    left, low = middle[0] - w / 2, middle[1] - h / 2
    box = (left - m_n, left + w + m_n, low - m_n, low + h + m_n)
    thin = w / 620
    drawn = []
    for n, body in enumerate(bodies(design, stage, k)):
        points = body.outline(2e-3 * m_n) + np.array([body.x, 0.0])
        color = (INK, COPPER)[n]
        for run in _within(points, box):
            drawn.append(
                f'<path d="{_path(run, closed=False)}" fill="none" stroke="{color}" stroke-width="{1.4 * thin:.4f}"/>'
            )
        gear = stage.gears[n]
        circles = [s for i, s in (CIRCLES if close is None else close.circles) if i == n + 1 and s in gear]
        for named, symbol in enumerate(circles):
            pattern = " ".join(f"{float(v) * thin:.4f}" for v in DASHES.get(symbol, "1 0").split())
            r = abs(float(gear[symbol])) / 2
            drawn.append(
                f'<circle cx="{body.x:.4f}" cy="0" r="{r:.4f}" fill="none" stroke="{color}" '
                f'stroke-width="{(0.6 if close is None else 1.0) * thin:.4f}" stroke-dasharray="{pattern}"/>'
            )
            at = body.x + r * np.exp(1j * np.linspace(-np.pi, np.pi, 20001))
            seen = at[(abs(at.real - middle[0]) < 0.44 * w) & (abs(at.imag - middle[1]) < (0.44 - 0.1 * named) * h)]
            if close is not None and len(seen):
                # Of two gears the names stand apart, above and below.
                best = seen[int(np.argmax(seen.imag if n == 0 else -seen.imag))]
                drawn.append(_name(float(best.real), -float(best.imag), symbol, n + 1, color, thin))
    (x_1, y_1), (x_2, y_2) = ends
    # The line of action runs on to both sides.
    dx, dy = x_2 - x_1, y_2 - y_1
    drawn.append(
        f'<line x1="{x_1 - dx:.4f}" y1="{-(y_1 - dy):.4f}" x2="{x_2 + dx:.4f}" y2="{-(y_2 + dy):.4f}" '
        f'stroke="{MUTED}" stroke-width="{0.6 * thin:.4f}"/>'
    )
    drawn.append(
        f'<line x1="{x_1:.4f}" y1="{-y_1:.4f}" x2="{x_2:.4f}" y2="{-y_2:.4f}" stroke="{OF_VERDICT["holds"]}" '
        f'stroke-width="{2.4 * thin:.4f}"/>'
    )
    for letter in "ABCDE":
        g = m.get(f"g_{letter}")
        if g is None:
            continue
        x, y = stage.action_point(float(g), 1)
        drawn.append(
            f'<circle cx="{x:.4f}" cy="{-y:.4f}" r="{2.2 * thin:.4f}" fill="{PAPER}" stroke="{INK}" '
            f'stroke-width="{thin:.4f}"/>'
        )
        drawn.append(_small(x + 5 * thin, -y + 11 * thin, thin, _text(0, 0, letter, 13)))
    if not clip:
        return _page("".join(drawn), (left, -low - h, w, h), 620)
    edge = (
        f'<clipPath id="mesh{k}"><rect x="{left:.4f}" y="{-low - h:.4f}" width="{w:.4f}" height="{h:.4f}"/></clipPath>'
    )
    return _page(f'{edge}<g clip-path="url(#mesh{k})">{"".join(drawn)}</g>', (left, -low - h, w, h), 620)


def _small(x: float, y: float, scale: float, text: str) -> str:
    """A text set at a size that readers can set, and made small."""
    return f'<g transform="translate({x:.4f} {y:.4f}) scale({scale:.5f})">{text}</g>'


def _name(x: float, y: float, symbol: str, index: int, color: str, thin: float) -> str:
    """The symbol of a circle, next to it."""
    text = f'<text x="4" y="0" font-size="15" fill="{color}">{_typeset(symbol, index)}</text>'
    return _small(x, y, thin, text)


def _typeset(symbol: str, index: int | None) -> str:
    main, sub = parts(symbol, index)
    return f'<tspan font-style="italic">{escape(main)}</tspan><tspan dy="3" font-size="8">{escape(sub)}</tspan>'


MOST_BARS = 16


def margins_svg(results: Results, system: str = "mm") -> str:
    """Every check as a bar from its limit to its value, the least margin first."""
    checks = sorted(results.checks, key=lambda c: c.margin)[:MOST_BARS]
    left, row, zero, span = 300.0, 17.0, 360.0, 190.0
    drawn = []
    for n, c in enumerate(checks):
        y = 12 + row * n
        where = (
            ""
            if c.stage is None or c.part or len(results.stages) < 2
            else tr("{name}: ", name=results.stages[c.stage].name)
        )
        drawn.append(_text(left, y + 4, f"{where}{c.label}", 11, INK, "end"))
        drawn.append(
            f'<text x="{left + 8:.1f}" y="{y + 4:.1f}" font-size="11" fill="{INK}">{_typeset(c.symbol, c.index)}</text>'
        )
        size = max(min(c.margin, 1.0), -0.25) * span
        x, wide = (zero, size) if size >= 0 else (zero + size, -size)
        drawn.append(
            f'<rect x="{x:.1f}" y="{y - 4:.1f}" width="{max(wide, 1.2):.1f}" height="9" '
            f'fill="{OF_VERDICT[c.verdict]}"/>'
        )
        unit = screen_unit(KINDS[c.kind].display_unit(system))
        sign = "≥" if c.sense == "at least" else "≤"
        text = tr(
            "{kind} {sign} {limit} {unit}",
            kind=number(c.value, c.kind, system),
            sign=sign,
            limit=number(c.limit, c.kind, system),
            unit=unit,
        ).strip()
        drawn.append(_text(zero + span + 8, y + 4, text, 10.5, MUTED))
    bottom = 12 + row * len(checks)
    for share in (0.0, 0.5, 1.0):
        x = zero + share * span
        drawn.append(
            f'<line x1="{x:.1f}" y1="2" x2="{x:.1f}" y2="{bottom:.1f}" stroke="{INK if share == 0 else LINE}" '
            f'stroke-width="{0.9 if share == 0 else 0.6}"/>'
        )
        drawn.append(
            _text(
                x,
                bottom + 10,
                tr("limit") if share == 0 else tr("+{share:.0f} %", share=100 * share),
                9.5,
                MUTED,
                "middle",
            )
        )
    rest = len(results.checks) - len(checks)
    if rest > 0:
        drawn.append(_text(left, bottom + 10, tr("and {rest} more with greater margins", rest=rest), 9.5, MUTED, "end"))
    return _page("".join(drawn), (0, 0, 680, bottom + 18), 680)


LOSSES = (("P_Vz", "meshes"), ("P_VL", tr("bearings")), ("P_VD", tr("seals")), ("P_V0", "churning and windage"))


def losses_svg(results: Results, system: str = "mm") -> str:
    """What is lost where, as bars; by mesh and by kind."""
    train = results.train
    rows = [
        (tr("mesh of {name}", name=s.name), float(s.mesh["P_VZ"]) * (one.planets if (one := results.within[k]) else 1))
        for k, s in enumerate(results.stages)
        if "P_VZ" in s.mesh
    ]
    rows += [(words, float(train[key])) for key, words in LOSSES[1:] if key in train]
    if not rows:
        return ""
    most = max(max(v for _, v in rows), 1e-12)
    drawn = []
    for n, (words, value) in enumerate(rows):
        y = 12 + 18 * n
        drawn.append(_text(215, y + 4, words, 11, INK, "end"))
        drawn.append(
            f'<rect x="225" y="{y - 5:.1f}" width="{300 * value / most:.1f}" height="11" fill="{COPPER}" '
            'fill-opacity="0.75"/>'
        )
        unit = screen_unit(KINDS["power"].display_unit(system))
        drawn.append(
            _text(
                232 + 300 * value / most,
                y + 4,
                tr("{system} {unit}", system=number(value, "power", system), unit=unit),
                10.5,
                MUTED,
            )
        )
    return _page("".join(drawn), (0, 0, 680, 12 + 18 * len(rows)), 680)


STRESS_PIXELS = 330


def stress_svg(design: Design, results: Results, k: int) -> str:
    """Equivalent stress of both true teeth under the nominal load where ISO 6336-3 has it, each with its own scale;
    a model, beside the rating."""
    try:
        ask = loaded_ask(design.train, results, k, "nominal")
    except OutOfRange:
        return ""
    stage, size = results.stages[k], STRESS_PIXELS
    drawn = []
    colours = shade_table("light")
    for i in (0, 1):
        basis = field_basis(ask.bodies[i], USUAL)
        L, w = load_place(stage, i), ask.F / ask.b
        values = von_mises(w * basis.between(L, basis.stress), basis.nu)
        top = w * basis.root(L)[0]
        end = nice(1.15 * top)
        nodes, m = basis.nodes, basis.m_n
        high, root = nodes[basis.chain][:, 1].max(), nodes[basis.pull][0]
        scale = min(size / (high - root[1] + 2.4 * m), size / (2 * abs(root[0]) + 1.2 * m))
        at = np.column_stack((size / 2 + scale * nodes[:, 0], scale * (high + 0.2 * m - nodes[:, 1])))
        raster = raster_of(at, triangles_of(basis.elements), size, size)
        picture = np.full((size, size, 4), 0, dtype=np.uint8)
        picture[raster.inside, :3] = colours[np.clip(raster.values(values / end) * 255, 0, 255).astype(int)]
        picture[raster.inside, 3] = 255
        left = 20 + i * (size + 20)
        drawn.append(
            f'<image x="{left}" y="16" width="{size}" height="{size}" href="data:image/png;base64,{_png(picture)}"/>'
        )
        clip = f'<clipPath id="tooth{k}{i}"><rect x="{left}" y="16" width="{size}" height="{size}"/></clipPath>'
        lines = isolines(at, triangles_of(basis.elements), values, np.linspace(0, end, 11)[1:-1]) + [left, 16]
        runs = "".join(tr("M{a:.1f} {b:.1f}L{c:.1f} {d:.1f}", a=a, b=b, c=c, d=d) for (a, b), (c, d) in lines.tolist())
        place = w * basis.between(L, basis.places) / w
        x, y = left + size / 2 + scale * place[0], 16 + scale * (high + 0.2 * m - place[1])
        n = basis.between(L, basis.directions)
        sides = "".join(
            tr(
                "M{a:.1f} {a_2:.1f}L{b:.1f} {b_2:.1f}L{c:.1f} {c_2:.1f}",
                a=a[0],
                a_2=a[1],
                b=b[0],
                b_2=b[1],
                c=c[0],
                c_2=c[1],
            )
            for a, b, c in (at[boundary_of(basis.elements)] + [left, 16]).tolist()
        )
        drawn.append(
            f'{clip}<g clip-path="url(#tooth{k}{i})" fill="none"><path d="{runs}" stroke="{INK}" '
            f'stroke-width="0.35"/><path d="{sides}" stroke="{INK}" stroke-width="0.9"/></g>'
        )
        drawn.append(
            f'<line x1="{x - 34 * n[0]:.1f}" y1="{y + 34 * n[1]:.1f}" x2="{x:.1f}" y2="{y:.1f}" stroke="{COPPER}" '
            f'stroke-width="2"/><circle cx="{x:.1f}" cy="{y:.1f}" r="2.6" fill="{COPPER}"/>'
        )
        drawn.append(
            _text(
                left, 10, tr("gear {i}: {top:.0f} MPa at the root, darkest {end:g} MPa", i=i + 1, top=top, end=end), 11
            )
        )
    return _page("".join(drawn), (0, 0, 2 * size + 60, size + 20), 680)


def _png(picture: Array) -> str:
    from base64 import b64encode
    from io import BytesIO

    from PIL import Image

    buffer = BytesIO()
    Image.fromarray(picture).save(buffer, "png", compress_level=1)
    return b64encode(buffer.getvalue()).decode()


def shaft_svg(made: MadeShaft) -> str:
    """A shaft in axial section with its bearings, its gears' seats and keys."""
    high = max([p.d / 2 for p in made.pieces] + [b.bearing.D / 2 for b in made.bearings])
    length = made.end - made.start
    edge = 0.04 * length
    thin = (length + 2 * edge) / 620
    drawn = []

    def box(x_1: float, x_2: float, y_1: float, y_2: float, fill: str) -> None:
        drawn.append(
            f'<rect x="{x_1:.3f}" y="{min(-y_1, -y_2):.3f}" width="{x_2 - x_1:.3f}" height="{abs(y_2 - y_1):.3f}" '
            f'fill="{fill}"/>'
        )

    for p in made.pieces:
        box(p.start, p.end, -p.d / 2, p.d / 2, DRIVEN)
        size = max(8 * thin, min(11 * thin, 0.3 * p.d))
        drawn.append(
            _text((p.start + p.end) / 2, -size / 2, tr("Ø{d:g}", d=p.d), size, MUTED, "middle").replace(
                "<text", '<text stroke="none"'
            )
        )
    for b in made.bearings:
        k = b.bearing
        for side in (1, -1):
            box(b.at - k.B / 2, b.at + k.B / 2, side * k.d / 2, side * k.D / 2, DRIVER)
            y = -side * k.D_pw / 2
            if k.rollers:
                box(b.at - k.L_we / 2, b.at + k.L_we / 2, -y - k.D_w / 2, -y + k.D_w / 2, PAPER)
            else:
                drawn.append(f'<circle cx="{b.at:.3f}" cy="{y:.3f}" r="{k.D_w / 2:.3f}" fill="{PAPER}"/>')
    for j in made.joints:
        if j.kind in ("key", "two keys"):
            p = made.piece(j.piece)
            top = p.d / 2 - j.t_1
            box(p.at - j.length / 2, p.at + j.length / 2, top, top + j.h, "none")
    axis = (
        f'<line x1="{made.start - edge:.3f}" y1="0" x2="{made.end + edge:.3f}" y2="0" stroke="{MUTED}" '
        f'stroke-width="{0.6 * thin:.4f}" stroke-dasharray="{9 * thin:.3f} {2 * thin:.3f} {2 * thin:.3f} '
        f'{2 * thin:.3f}"/>'
    )
    group = f'<g stroke="{INK}" stroke-width="{thin:.4f}">{"".join(drawn)}</g>{axis}'
    return _page(group, (made.start - edge, -high - edge / 2, length + 2 * edge, 2 * high + edge), 620)
