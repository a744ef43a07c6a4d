"""The user's own materials, kept in one file from design to design."""

from __future__ import annotations

import json
from pathlib import Path

import platformdirs

from cooper.atomic_write import atomic_write_text
from cooper.document.gear_data import Material
from cooper.errors import OutOfRange


def shelf_file() -> Path:
    """Where own materials are kept."""
    return Path(platformdirs.user_data_dir("cooper", appauthor=False)) / "materials.json"


def materials() -> list[Material]:
    """The kept materials by name; what cannot be read is left out."""
    try:
        rows = list(json.loads(shelf_file().read_text(encoding="utf-8"))["materials"])
    except (OSError, ValueError, KeyError, TypeError):
        return []
    result = []
    for row in rows:
        try:
            result.append(Material.from_data(row))
        except OutOfRange:
            continue
    return sorted(result, key=lambda m: m.name)


def keep(material: Material) -> None:
    """Keep a named material; one of the same name gives way."""
    rows = [m.plain() for m in materials() if m.name != material.name] + [material.plain()]
    shelf_file().parent.mkdir(parents=True, exist_ok=True)
    atomic_write_text(shelf_file(), json.dumps({"materials": rows}, indent=1, ensure_ascii=False))
