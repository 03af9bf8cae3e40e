"""Two banks and the converters between them, as the day's steps see them."""

from __future__ import annotations

from typing import NamedTuple

from numba import float64, types

from parhelion.bank.store import STORE, Store, store_of, temperature_of
from parhelion.design import BoatDesign, Link


class Joint(NamedTuple):
    """The converters between the main bank and the house bank; all floats."""

    present: float = 0.0  # 1 where there is a house bank of its own
    out_w: float = 0.0  # main to house: most it delivers
    out_efficiency: float = 1.0
    out_needs: float = 0.0  # 1 where it carries what the house lacks
    back_w: float = 0.0  # house to main
    back_efficiency: float = 1.0
    back_needs: float = 0.0


class Aboard(NamedTuple):
    """Everything that stores: the main bank, the house bank where there is one, and what joins them."""

    main: Store
    house: Store
    joint: Joint


JOINT = types.NamedUniTuple(float64, len(Joint._fields), Joint)
ABOARD = types.NamedTuple((STORE, STORE, JOINT), Aboard)


def _together(links: list[Link]) -> tuple[float, float, float]:
    """Converters of one direction as one: watts delivered, efficiency, whether any carries needs."""
    limit = sum(link.limit_w for link in links)
    if limit == 0:
        return 0.0, 1.0, 0.0
    taken = sum(link.limit_w / link.efficiency for link in links)
    return limit, limit / taken, float(any(link.carries == "needs" for link in links))


def aboard_of(design: BoatDesign, air_c: float, water_c: float) -> Aboard | None:
    """The banks of a design in air and water of a temperature [C]; None where there is none."""
    bank, house = design.bank, design.house_bank
    if bank is None:
        return None
    main = store_of(bank, temperature_of(bank, air_c, water_c))
    if house is None:
        return Aboard(main, main, Joint())
    out = _together(design.links_between(bank, house))
    back = _together(design.links_between(house, bank))
    return Aboard(main, store_of(house, temperature_of(house, air_c, water_c)), Joint(1.0, *out, *back))
