"""Sun and ring with planets of two gears between them."""

from cooper.kinds.arranged import ROUND, SUN_AND_RING, Arrangement

STEPPED_PLANETS = Arrangement(
    label="Stepped set",
    words="planet set with stepped planets",
    members=ROUND,
    meshes=((0, 1), (1, 2)),
    roles=SUN_AND_RING,
    shafts=("sun", "carrier", "ring"),
    same={},
    inward={(0, 0): False, (0, 1): False, (1, 1): True},
    parts=(("sun", (0, 0)), ("planets at the sun", (0, 1)), ("planets at the ring", (1, 0)), ("ring", (1, 1))),
)
