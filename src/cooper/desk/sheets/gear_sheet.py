"""The sheet of one gear: tool, thickness, blank, material with own values, load on the teeth."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QInputDialog, QLabel, QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.frame import shelf
from cooper.desk.frame import theme as th
from cooper.desk.frame.session import Session
from cooper.desk.sheets.sheet import Choice, Option, Sheet, path_choice, setting
from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.units import number_with_unit
from cooper.editing.edit import give_shape, set_many
from cooper.editing.fields import Field, gear_fields, member_path
from cooper.errors import OutOfRange
from cooper.stock.allowances import classes, series, thickness_allowances
from cooper.stock.materials import groups, is_standard
from cooper.stock.racks import rack_profiles


def material_words(group: str, grade: str) -> str:
    """A material of the stock in words; those outside ISO 6336-5 say so."""
    name = groups()[group]["name"]
    return f"{name}, {grade}" if is_standard(group) else f"{name} (beyond ISO 6336-5)"


def keep_material(session: Session, path: str, parent: QWidget, name: str = "") -> bool:
    """Keep the gear's material, with what is entered of its own, under a name on the user's shelf."""
    if not name:
        name, taken = QInputDialog.getText(parent, "Keep as own material", "Name:")
        if not taken or not name.strip():
            return False
    named = get_at(session.design, path).material.model_copy(update={"name": name.strip()[:80]})
    shelf.keep(named)
    return session.edit(lambda d, _r: set_many(d, {f"{path}.material.name": named.name}), f"own material {named.name}", "material")


def gear_sheet(session: Session, theme: th.Theme, parent: QWidget, i: int) -> Sheet:
    """All data of gear i (1, 2) that do not stand on the drawing."""
    sheet = Sheet(session, theme, parent)
    k = session.stage
    fields = gear_fields(session.design, k, i)
    path = member_path(session.design, k, i)
    sheet.renew = lambda: gear_fields(session.design, k, i)
    name = get_at(session.design, path).name
    sheet.title.setText(f"{name[:1].upper()}{name[1:]}: tool, thickness, blank, material")
    sheet.setAccessibleName(f"All data of {name}")

    def m_n() -> float:
        return session.results.stages[k].mesh.m_n

    def diameter() -> float:
        """Reference diameter that the allowances are read at; of a rack that of its pinion."""
        gears = session.results.stages[k].gears
        return gears[i - 1].get("d", gears[0].d)

    def rack_options() -> list[Option]:
        return [
            (f"{r.name}: {r.h_aP:g} / {r.dedendum(m_n()):.4g} / {r.rho_fP:g}, {r.use}", setting(
                {f"{path}.h_aP": r.h_aP, f"{path}.h_fP": round(r.dedendum(m_n()), 4), f"{path}.rho_fP": r.rho_fP,
                 f"train.stages.{k}.meshes.0.alpha_n": r.alpha_n}))
            for r in rack_profiles().values()
        ]  # fmt: skip

    def rack_now(d: Design) -> str:
        g = get_at(d, path)
        alpha_n = d.train.stages[k].meshes[0].alpha_n
        for r in rack_profiles().values():
            if (r.alpha_n, r.h_aP, round(r.dedendum(m_n()), 4), r.rho_fP) == (alpha_n, g.h_aP, g.h_fP, g.rho_fP):
                return r.name
        return "own values"

    def allowance_options() -> list[Option]:
        rows: list[Option] = []
        d_now = diameter()
        for letter in series():
            for number in classes():
                try:
                    upper, lower = thickness_allowances(d_now, letter, number)
                except OutOfRange:
                    continue
                words = f"{letter}{number}: {upper:g} / {lower:g} mm"
                rows.append((words, setting({f"{path}.E_sns": upper, f"{path}.E_sni": lower})))
        return rows

    def allowance_now(d: Design) -> str:
        g = get_at(d, path)
        d_now = diameter()
        for letter in series():
            for number in classes():
                try:
                    if thickness_allowances(d_now, letter, number) == (g.E_sns, g.E_sni):
                        return f"DIN 3967, {letter}{number}"
                except OutOfRange:
                    return "own values"
        return "own values"

    def material_options() -> list[Option]:
        rows: list[Option] = [(f"own: {m.name}", setting({f"{path}.material": m.model_dump()})) for m in shelf.materials()]
        for group, data in groups().items():
            for grade in data["grades"]:

                def change(d: Design, group: str = group, grade: str = grade, data: dict[str, Any] = data) -> Design:
                    now = get_at(d, path).material
                    hardness = now.hardness if group == now.group else float(data["hardness_default"])
                    values = {"group": group, "grade": grade, "hardness": hardness}
                    return set_many(d, {f"{path}.material": values, f"{path}.swelling": data.get("swelling", 0.0)})

                rows.append((material_words(group, grade), change))
        return rows

    def material_now(d: Design) -> str:
        m = get_at(d, path).material
        return f"own: {m.name}" if m.name else material_words(m.group, m.grade)

    tool = path_choice(session, f"tool_{i}", "root made by", f"{path}.tool", {
        "rack": "rack or hob", "pinion cutter": "pinion cutter", "form": "form, plain fillet"})  # fmt: skip
    rack = Choice(session, f"rack_{i}", "basic rack", rack_now, rack_options)
    material = Choice(session, f"material_{i}", "material", material_now, material_options)
    left, middle, right = sheet.add_column(), sheet.add_column(), sheet.add_column()
    now = get_at(session.design, path)

    def shape_options() -> list[Option]:
        return [(w, lambda d, v=v: give_shape(d, k, v)) for v, w in (("gear", "wheel"), ("rack", "rack"))]  # type: ignore[misc]

    shape = Choice(session, "shape", "shape", lambda d: "rack" if get_at(d, path).shape == "rack" else "wheel", shape_options)

    def pick(*names: str) -> list[Field | Choice]:
        return [f for n in names for f in fields.values() if f.symbol == n]

    more = pick("z_0", "x_0", "pr_P", "q_P", "alpha_prP", "t_g", "rho_g")
    if i == 2:
        sheet.add_group(left, "Shape", [shape])
    sheet.add_group(left, "Cutting tool", [*([] if now.shape == "rack" else [tool]), rack, *pick("h_aP", "h_fP", "rho_fP"), *more])
    allowance = Choice(session, f"allowance_{i}", "allowance series and class", allowance_now, allowance_options)
    sheet.add_group(left, "Tooth thickness", [allowance, *pick("E_sns", "E_sni")])
    bending = path_choice(session, f"bending_{i}", "teeth are bent", f"{path}.bending", {
        "one way": "one way", "both ways": "both ways, as idlers and planets"})  # fmt: skip
    sheet.add_group(middle, "Material", [material, *pick("hardness", "R_p02", "swelling", "k_W")])
    if get_at(session.design, path).material.group == "Eh":
        cores: dict[object, str] = {"25 HRC": "25 HRC or more", "30 HRC": "30 HRC or more", "lower hardenability": "25 HRC, lower hardenability"}
        sheet.add_group(middle, "Case and core", [
            path_choice(session, f"core_{i}", "core (grade MQ)", f"{path}.material.core", cores),
            path_choice(session, f"peened_{i}", "roots shot peened", f"{path}.material.peened", {False: "no", True: "yes, under control"}),
            *pick("CHD"),
        ])  # fmt: skip
    sheet.add_group(middle, "In place of the stock's values", pick("sigma_Hlim", "sigma_Flim", "E", "density", "price_index"))
    keep = QPushButton("Keep as own material …")
    keep.setObjectName(f"keep_material_{i}")
    keep.setProperty("plain", True)
    keep.clicked.connect(lambda: keep_material(session, path, sheet))
    middle.addWidget(keep, alignment=Qt.AlignmentFlag.AlignLeft)
    mass = QLabel()
    mass.setObjectName(f"mass_{i}")
    middle.addWidget(mass)

    def weigh() -> None:
        if isValid(mass):
            g = session.results.stages[k].gears[i - 1]
            mass.setText(f"{number_with_unit(g['mass'], 'mass', session.system)}, relative cost {g['cost']:.3g}")
            mass.setStyleSheet(th.label_style(theme, "muted", th.SMALL))

    session.changed.connect(weigh)
    weigh()
    treated: dict[object, str] = {"none": "as made", "phosphated": "phosphated", "copper plated": "copper plated",
                                  "little retained austenite": "retained austenite below 20 %", "much retained austenite": "retained austenite above 30 %"}
    sheet.add_group(left, "Scuffing", [path_choice(session, f"treatment_{i}", "flanks", f"{path}.treatment", treated)])
    sheet.add_group(right, "Load on the teeth", [bending, *pick("R_bend", "S_Fmin", "S_Hmin")])
    sheet.add_group(right, "Quality and surface", pick("Q", "Rz_H", "Rz_F"))
    if now.shape == "gear":
        sheet.add_group(right, "Tip edges", pick("h_K", "delta_K", "rho_a"))
        sheet.add_group(right, "Blank", pick("d_bore", "d_i", "b_s", "d_rim"))
    sheet.add_group(right, "Shaft", pick("d_s"))
    sheet.finish()
    return sheet
