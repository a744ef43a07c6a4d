"""Sun and ring with planets between them, each planet one gear."""

from cooper.i18n.text import tr
from cooper.kinds.arranged import ROUND, SUN_AND_RING, Arrangement

PLANET_SET = Arrangement(
    label=tr("Planet set"),
    words=tr("planet set: sun, planets, ring"),
    members=ROUND,
    meshes=((0, 1), (1, 2)),
    roles=SUN_AND_RING,
    shafts=("sun", "carrier", "ring"),
    same={(1, 0): (0, 1)},
    inward={(0, 0): False, (0, 1): False, (1, 1): True},
    parts=(("sun", (0, 0)), ("planets", (0, 1)), ("ring", (1, 1))),
)
