"""Two rings on planets of two gears, and a sun between the planets where one is wanted."""

from cooper.i18n.text import tr
from cooper.kinds.arranged import Arrangement

TWO_RINGS = Arrangement(
    label=tr("Two rings"),
    words=tr("two rings on stepped planets"),
    members=("planet", "ring", "ring 2", "carrier"),
    meshes=((0, 1), (0, 2), (4, 0)),
    roles=(("planet", "ring"), ("planet", "ring 2"), ("sun", "planet")),
    shafts=("carrier", "ring", "ring 2", "sun"),
    same={(2, 1): (0, 0)},
    inward={(0, 0): False, (0, 1): True, (1, 1): True},
    parts=(
        (tr("planets, lower gear"), (0, 0)),
        (tr("planets, upper gear"), (1, 0)),
        ("ring", (0, 1)),
        ("ring 2", (1, 1)),
    ),
    circulates=True,
    sun_between=True,
    # Two rings push against each other, a sun the way of the first.
    across=(1, -1, 1),
)
