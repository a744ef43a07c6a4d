"""3MF files, as its core specification 1.3 has them: named meshes in millimetres, with what they are told of."""

from __future__ import annotations

import zipfile
from pathlib import Path
from typing import TYPE_CHECKING
from xml.sax.saxutils import escape, quoteattr

if TYPE_CHECKING:
    import trimesh

CORE = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
TYPES = """<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
</Types>
"""
RELATIONS = """<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>
"""


def write_3mf(parts: list[tuple[str, trimesh.Trimesh]], path: Path, message: dict[str, str]) -> None:
    """Write meshes with their names; ``told`` goes into the file as metadata by the names that the specification
    knows (Title, Description …)."""
    lines = ['<?xml version="1.0" encoding="UTF-8"?>', f'<model unit="millimeter" xml:lang="en" xmlns="{CORE}">']
    for name, text in {**message, "Application": "Cooper"}.items():
        lines.append(f"<metadata name={quoteattr(name)}>{escape(text)}</metadata>")
    lines.append("<resources>")
    for number, (name, mesh) in enumerate(parts, 1):
        lines.append(f'<object id="{number}" type="model" name={quoteattr(name)}><mesh><vertices>')
        lines += [f'<vertex x="{x:.6f}" y="{y:.6f}" z="{z:.6f}"/>' for x, y, z in mesh.vertices.tolist()]
        lines.append("</vertices><triangles>")
        lines += [f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in mesh.faces.tolist()]
        lines.append("</triangles></mesh></object>")
    lines.append("</resources><build>")
    lines += [f'<item objectid="{number}"/>' for number in range(1, len(parts) + 1)]
    lines.append("</build></model>")
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("[Content_Types].xml", TYPES)
        package.writestr("_rels/.rels", RELATIONS)
        package.writestr("3D/3dmodel.model", "\n".join(lines))
