"""The attributes of values are the symbols of the quantities, no more and no fewer."""

from cooper.demo import DEMOS, demo
from cooper.document.quantities import QUANTITIES
from cooper.results.evaluate import evaluate
from cooper.values import GearValues, MeshValues, PowerValues, SetValues, TrainValues, Values
from pins.odd_designs import odd_designs

WAYS = ("_in", "_out")


def known(kind: type[Values]) -> set[str]:
    return set(kind.__annotations__)


def test_every_attribute_is_a_quantity():
    for kind in (MeshValues, GearValues, PowerValues, TrainValues, SetValues):
        for symbol in known(kind):
            stem = next((symbol.removesuffix(w) for w in WAYS if symbol.endswith(w)), symbol)
            assert symbol in QUANTITIES or stem in QUANTITIES, f"{kind.__name__}.{symbol}"


def test_every_value_that_comes_of_a_design_is_an_attribute():
    for design in (*map(demo, DEMOS), *odd_designs().values()):
        r = evaluate(design)
        assert set(r.train) <= known(TrainValues), set(r.train) - known(TrainValues)
        for one in r.sets:
            assert set(one.values) <= known(SetValues)
        for s in r.stages:
            assert set(s.mesh) <= known(MeshValues), set(s.mesh) - known(MeshValues)
            assert set(s.power) <= known(PowerValues), set(s.power) - known(PowerValues)
            for g in s.gears:
                assert set(g) <= known(GearValues), set(g) - known(GearValues)
