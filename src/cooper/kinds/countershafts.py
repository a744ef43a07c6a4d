"""Two gears on one axis with countershafts of two gears about it, which share the power."""

from cooper.i18n.text import tr
from cooper.kinds.arranged import Arrangement

COUNTERSHAFTS = Arrangement(
    label=tr("Countershafts"),
    words=tr("countershafts side by side, which share the power"),
    members=(tr("first gear"), "countershaft", tr("last gear"), "housing"),
    meshes=((0, 1), (1, 2)),
    roles=((tr("first gear"), "countershaft"), ("countershaft", tr("last gear"))),
    shafts=(tr("first gear"), tr("last gear"), "housing"),
    same={},
    inward={(0, 0): False, (0, 1): False, (1, 0): False, (1, 1): False},
    parts=(
        (tr("first gear"), (0, 0)),
        (tr("countershafts, first gear"), (0, 1)),
        (tr("countershafts, second gear"), (1, 0)),
        (tr("last gear"), (1, 1)),
    ),
    between="countershaft",
    carrier="housing",
    fixed="housing",
    # Both gears in the middle push the countershaft outwards, and against each other across.
    across=(1, -1),
)
