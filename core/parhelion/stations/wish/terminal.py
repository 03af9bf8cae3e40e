"""The Wish's word in the terminal."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TextIO

from parhelion.design import BoatDesign
from parhelion.formats.plain import print_json, print_told, told
from parhelion.stations.wish.front import wish_front


def wish_arguments(parser: ArgumentParser) -> None:
    parser.add_argument("--coins", type=float, help="money, instead of the wish's own")


def wish(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    """The front of a boat's wish, one boat a line."""
    if arguments.coins is not None and design.wish is not None:
        design = design.changed(wish=design.wish.model_copy(update={"coins": arguments.coins}))
    found = wish_front(design)
    if arguments.json:
        print_json(found, out)
        return
    if found.refused is not None:
        out.write(f"{told(found.refused)}\n")
        return
    for asked in found.asked:
        out.write(f"wished: {told(asked)}\n")
    out.write("\n")
    for point in found.points:
        marks = ", ".join(point.marks)
        has = "; ".join(told(line) for line in point.has)
        out.write(
            f"{point.cost:7.0f} coins  x {point.stretch:4.2f}  {point.added_kg:+5.0f} kg  {marks:18s} {has}\n"
        )
    out.write("\n")
    print_told(found.told, out)
    print_told([near.told for near in found.near], out)
