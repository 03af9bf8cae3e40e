"""What the banks' and the sources' empty entries mean."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.balance.sources import BEGINS_MPS, FULL_MPS
from parhelion.bank.age import health_of
from parhelion.bank.store import charge_limit_a, discharge_limit_a, reserve_of, resistance_of
from parhelion.bank.tape import tape_volts
from parhelion.design.chemistries import CHEMICALS
from parhelion.market.parts import battery_price
from parhelion.stations.usual import Usual, UsualOf, by_pointer


def bank_usual(outlook: Outlook) -> UsualOf:
    """By entry."""
    found: UsualOf = {}
    for index, bank in enumerate(outlook.design.banks):
        typical = CHEMICALS[bank.chemistry]
        at = f"/banks/{index}"
        found |= by_pointer(at, {
            "reserve_frac": reserve_of(bank),
            "full_v": tape_volts(bank)[0][2],
            "empty_v": typical.rest_v[0][1] * bank.cells,
            "cut_out_v": bank.cuts_out_v,
            "unit_mass_kg": bank.mass / bank.units,
            "unit_price": battery_price(bank, bank.unit_v * bank.unit_ah),
            "health_frac": health_of(bank),
        })  # fmt: skip

        found |= {
            f"{at}/{name}": Usual(value=value, low=ends[0] * size, high=ends[2] * size)
            for name, value, ends, size in (
                ("usable_depth_frac", typical.usable_depth, typical.depth, 1.0),
                ("charge_limit_a", charge_limit_a(bank), typical.charge_c, bank.capacity_ah),
                ("discharge_limit_a", discharge_limit_a(bank), typical.discharge_c, bank.capacity_ah),
                ("coulomb_efficiency", typical.coulomb_efficiency, typical.coulomb, 1.0),
                ("resistance_ohm", resistance_of(bank), typical.resistance, bank.cells / bank.capacity_ah),
            )
        }
    for index, source in enumerate(outlook.design.sources):
        begins, full = BEGINS_MPS.get(source.kind), FULL_MPS.get(source.kind)
        found |= by_pointer(f"/sources/{index}", {"begins_mps": begins, "full_mps": full})
    return found
