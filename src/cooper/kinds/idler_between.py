"""An idler between two gears, all three on axes that stand still."""

from cooper.i18n.text import tr
from cooper.kinds.arranged import Arrangement

IDLER_BETWEEN = Arrangement(
    label=tr("Idler"),
    words=tr("idler between two gears"),
    members=(tr("first gear"), "idler", tr("last gear")),
    meshes=((0, 1), (1, 2)),
    roles=((tr("first gear"), "idler"), ("idler", tr("last gear"))),
    shafts=(tr("first gear"), tr("last gear")),
    same={(1, 0): (0, 1)},
    inward={(0, 0): False, (0, 1): False},
    parts=((tr("first gear"), (0, 0)), ("idler", (0, 1)), (tr("last gear"), (1, 1))),
    between="idler",
    around=False,
)
