"""An idler between two gears, all three on axes that stand still."""

from cooper.kinds.arranged import Arrangement

IDLER_BETWEEN = Arrangement(
    label="Idler",
    words="idler between two gears",
    members=("first gear", "idler", "last gear"),
    meshes=((0, 1), (1, 2)),
    roles=(("first gear", "idler"), ("idler", "last gear")),
    shafts=("first gear", "last gear"),
    same={(1, 0): (0, 1)},
    inward={(0, 0): False, (0, 1): False},
    parts=(("first gear", (0, 0)), ("idler", (0, 1)), ("last gear", (1, 1))),
    between="idler",
    around=False,
)
