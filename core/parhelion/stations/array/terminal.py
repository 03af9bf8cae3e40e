"""The Array's word in the terminal."""

from __future__ import annotations

from argparse import Namespace
from typing import TextIO

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.formats.plain import print_findings, print_json, with_findings
from parhelion.stations.array.findings import array_findings
from parhelion.stations.array.picture import array_advice, array_picture


def harvest(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    outlook = outlook_of(design)
    picture, advice, findings = array_picture(outlook), array_advice(outlook), array_findings(outlook)
    if arguments.json:
        print_json({**picture.model_dump(mode="json"), **with_findings(advice, findings)}, out)
        return
    out.write(f"{picture.nameplate_w:.0f} W of nameplate, {picture.day_wh:.0f} Wh at the bank\n")
    for place in picture.places:
        shade = place.missing or f"{100 * place.lost_frac:.1f} % lost to shade"
        out.write(f"{place.name:22s} {place.nameplate_w:6.0f} W {place.day_wh:8.0f} Wh  {shade}\n")
    for panel in picture.panels:
        out.write(f"  {panel.group_id} {panel.number + 1:3d} {panel.day_wh:8.0f} Wh\n")
    names = {thing.id: thing.name for thing in picture.things}
    for cost in advice.costs:
        out.write(f"{names[cost.id]:22s} costs {cost.cost_wh:8.0f} Wh\n")
    for row in advice.states:
        out.write(f"{row.state.replace('_', ' '):22s} gives {row.day_wh:8.0f} Wh\n")
    print_findings(findings, out)
