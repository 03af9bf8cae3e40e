"""Which panels stand in series on which controller: as each group says, or wired by hand."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design import BoatDesign, PanelGroup
from parhelion.wiring.by_itself import strung_panels

Numbered = tuple[PanelGroup, int]  # a panel: its group, and its number in it


@dataclass(frozen=True)
class Strung:
    """Panels in series on one controller."""

    id: str
    controller_id: str
    panels: tuple[Numbered, ...]

    @property
    def groups(self) -> tuple[PanelGroup, ...]:
        """The group of each panel."""
        return tuple(group for group, _ in self.panels)


def by_hand(design: BoatDesign) -> bool:
    """Whether strings are wired by hand: then a panel in none of them gives nothing."""
    return bool(design.strings)


def strings_of(design: BoatDesign) -> tuple[Strung, ...]:
    """Every complete string of the panel set in use.

    Panels, groups and controllers that are no longer aboard fall out of strings wired by hand.
    """
    fitted = {group.id: group for group in strung_panels(design)}
    if not by_hand(design):
        return tuple(
            Strung(
                f"{group.id}/{k}",
                group.controller_id,
                tuple((group, k * group.in_series + i) for i in range(group.in_series)),
            )
            for group in fitted.values()
            for k in range(group.count // group.in_series)
        )
    boxes = {controller.id for controller in design.controllers}
    found = []
    for string in design.strings:
        panels = tuple(
            (fitted[ref.group_id], ref.number)
            for ref in string.panels
            if ref.group_id in fitted and ref.number < fitted[ref.group_id].count
        )
        if panels and string.controller_id in boxes:
            found.append(Strung(string.id, string.controller_id, panels))
    return tuple(found)


def loose_panels(design: BoatDesign) -> tuple[Numbered, ...]:
    """Panels that are in no string: they give nothing."""
    strung = {(group.id, number) for string in strings_of(design) for group, number in string.panels}
    return tuple(
        (group, number)
        for group in strung_panels(design)
        for number in range(group.count)
        if (group.id, number) not in strung
    )
