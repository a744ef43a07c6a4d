"""Sun and ring with planets of two gears between them."""

from cooper.i18n.text import tr
from cooper.kinds.arranged import ROUND, SUN_AND_RING, Arrangement

STEPPED_PLANETS = Arrangement(
    label=tr("Stepped set"),
    words=tr("planet set with stepped planets"),
    members=ROUND,
    meshes=((0, 1), (1, 2)),
    roles=SUN_AND_RING,
    shafts=("sun", "carrier", "ring"),
    same={},
    inward={(0, 0): False, (0, 1): False, (1, 1): True},
    parts=(("sun", (0, 0)), (tr("planets at the sun"), (0, 1)), (tr("planets at the ring"), (1, 0)), ("ring", (1, 1))),
)
