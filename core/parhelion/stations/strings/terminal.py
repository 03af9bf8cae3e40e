"""The word of Strings in the terminal."""

from __future__ import annotations

from argparse import Namespace
from typing import TextIO

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.formats.plain import print_findings, print_json, with_findings
from parhelion.stations.strings.findings import wiring_findings
from parhelion.stations.strings.picture import strings_picture


def wiring(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    outlook = outlook_of(design)
    picture, findings = strings_picture(outlook), wiring_findings(outlook)
    if arguments.json:
        print_json(with_findings(picture, findings), out)
        return
    if not picture.lines:
        out.write("No panels are wired to a controller yet.\n")
    for rung, line in zip(picture.rungs, picture.lines, strict=True):
        limit = f"limit {rung.limit_v:.0f}" if rung.limit_v is not None else "limit not known"
        needs = f", needs {rung.needs_v:.1f}" if rung.needs_v is not None else ""
        out.write(
            f"{rung.name:22s} {line.arrangement:24s} cold {rung.cold_v:6.1f} V ({limit})  noon "
            f"{rung.noon_v:6.1f}  hot {rung.hot_v:6.1f}{needs}\n"
        )
        wire = line.cable
        out.write(
            f"{'':22s} {wire.size_mm2:g} mm2 (AWG {wire.gauge}), {100 * wire.drop_frac:.1f} % over "
            f"{wire.length_m:g} m, breaker {line.breaker_a or 0:g} A\n"
        )
    print_findings(findings, out)
