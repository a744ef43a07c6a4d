"""The gears of a stage as they are mounted: with the bore of their seat and the keyways or the spline of their
joint, where the machine is laid out."""

from __future__ import annotations

from msgspec.structs import replace

from cooper.document.models import Design
from cooper.exchange.body import Body, bodies
from cooper.exchange.machine_parts import machine_bodies
from cooper.kinds.section import WheelSection
from cooper.results.result_tree import Results


def mounted(design: Design, results: Results, stage: int) -> tuple[Body, Body]:
    """Both gears of a stage in mesh (`bodies`), each the same part that the whole machine has; as entered without a
    machine. A pinion cut into its shaft has no bore."""
    one, two = bodies(design, results.stages[stage], stage)
    m = results.machine
    if m is None:
        return one, two
    joints = {j.gear: j for s in m.shafts for j in s.made.joints}
    seated = {(k, body.name): body for body, _places, k in machine_bodies(design, results, m, openings=True)[0]}
    result = []
    for body, gear in zip((one, two), design.train.stages[stage].gears, strict=True):
        joint, seat = joints.get(gear.id), seated.get((stage, body.name))
        if joint is None or seat is None or not isinstance(body.section, WheelSection) or body.section.inward:
            result.append(body)
            continue
        edge = 0.0 if joint.kind == "integral" else seat.section.edge
        profile = None if seat.bore_profile is None else seat.bore_profile.turned(body.phase)
        result.append(replace(body, section=replace(body.section, edge=edge), bore_profile=profile))
    return result[0], result[1]
