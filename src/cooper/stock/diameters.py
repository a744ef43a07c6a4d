"""Diameters that shafts customarily have."""

DIAMETERS = (
    *(x / 2 for x in range(2, 20)),
    *range(10, 20),
    *range(20, 50, 2),
    *(25, 35, 45, 55, 65, 75, 85, 95),
    *range(50, 100, 2),
    *range(100, 200, 5),
    *range(200, 400, 10),
    *range(400, 2001, 20),
)
STANDARD = tuple(sorted({float(d) for d in DIAMETERS}))
"""Diameters to which shafts are rounded up; mm."""
