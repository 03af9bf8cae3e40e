"""Cables and what protects them: drop, size, fuse.

References
----------
[1] Copper: 0.017241 (1 + .00393 (T - 20)) ohm mm2/m, both ways.
[2] Fuse at least 1.25 x the lasting current; the cable's ampacity x derating at least the fuse (.85 in an
    engine space, typically .7 in a bundle); then the drop. Panels: 1.25 x Isc lasts, a breaker holds 1.25 x
    that; a fuse in each string where the others together can feed more than the panel's own limit back.
[3] Ampacity of single fine-stranded boat cables with insulation for 105 C, in air: typical of what makers of
    such cable state, approximate. Lesser insulation carries less: 75 C about two thirds.
[4] American wire gauge: d = .127 x 92^((36 - n) / 39) mm.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

SIZES_MM2 = (
    0.75, 1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 35.0, 50.0, 70.0, 95.0, 120.0, 150.0, 185.0, 240.0,
)  # fmt: skip
# [3]
AMPACITY_A = (
    16.0, 20.0, 25.0, 35.0, 45.0, 60.0, 90.0, 130.0, 170.0, 210.0, 270.0, 330.0, 390.0, 450.0, 475.0, 540.0,
    620.0,
)  # fmt: skip
FUSES_A = (
    1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 125, 150, 175, 200, 225, 250, 300, 350, 400,
    500,
)  # fmt: skip
LASTING = 1.25
ENGINE_SPACE, BUNDLED = 0.85, 0.7
FUSE_WITHIN_M = 0.2  # of the bank's terminal, typical of the rules
WARM_C = 45.0  # of a loaded conductor aboard, where nothing else is said


def ohm_per_m(size_mm2: float, copper_c: float) -> float:
    """Resistance of one metre of run, there and back [1] [ohm/m]."""
    return 2 * 0.017241 * (1 + 0.00393 * (copper_c - 20)) / size_mm2


def drop_v(current_a: float, length_m: float, size_mm2: float, copper_c: float = WARM_C) -> float:
    """Volts lost over a run, there and back [1].

    Parameters
    ----------
    current_a, length_m, size_mm2 : float
        Length one way [m].
    copper_c : float
    """
    return current_a * length_m * ohm_per_m(size_mm2, copper_c)


def gauge(size_mm2: float) -> str:
    """The nearest American gauge that is no thinner, e.g. "6" or "2/0" [4]."""
    for n in range(20, -4, -1):
        wide_mm = 0.127 * 92 ** ((36 - n) / 39)
        if pi / 4 * wide_mm**2 >= size_mm2 * 0.97:
            return str(n) if n > 0 else f"{1 - n}/0"
    return "4/0 and more"


def fuse_a(current_a: float) -> float | None:
    """The next usual fuse over a current; None over the largest [A]."""
    return next((float(size) for size in FUSES_A if size >= current_a - 1e-9), None)


@dataclass(frozen=True)
class Cable:
    """A cable with its fuse, and what it loses."""

    size_mm2: float
    fuse_a: float | None
    drop_v: float
    drop_frac: float
    reason: str  # what sets the size: "drop", "ampacity", or "none is thick enough"


def cable_for(
    current_a: float, length_m: float, volts: float, drop_frac: float, copper_c: float = WARM_C,
    engine_space: bool = False, bundled: bool = False, fuse: float | None = None,
) -> Cable:  # fmt: skip
    """The thinnest cable that carries its fuse and keeps within a drop [2].

    Parameters
    ----------
    current_a : float
        That lasts.
    length_m : float
        One way.
    volts, drop_frac : float
        Of the circuit, and the share of them that may be lost.
    copper_c : float
    engine_space, bundled : bool
        Warmer air, and other loaded cables beside it, take from what it may carry.
    fuse : float, optional
        Where it is not 1.25 x the current [A].
    """
    protects = fuse or fuse_a(LASTING * current_a)
    derating = (ENGINE_SPACE if engine_space else 1.0) * (BUNDLED if bundled else 1.0)
    carried = None
    for size, ampacity in zip(SIZES_MM2, AMPACITY_A, strict=True):
        if protects is None or ampacity * derating < protects:
            continue
        carried = carried or size
        lost = drop_v(current_a, length_m, size, copper_c)
        if lost <= drop_frac * volts + 1e-12:
            return Cable(size, protects, lost, lost / volts, "drop" if size > carried else "ampacity")
    lost = drop_v(current_a, length_m, SIZES_MM2[-1], copper_c)
    return Cable(SIZES_MM2[-1], protects, lost, lost / volts, "none is thick enough")


def lasting_a(short_a: float, strings: int) -> float:
    """What panels can make a wire carry for hours: 1.25 x Isc x strings [2] [A]."""
    return LASTING * short_a * strings


def string_fuses(short_a: float, strings: int, most_fuse_a: float | None) -> bool | None:
    """Whether every string needs a fuse of its own [2]; None where the panel's limit is not known."""
    if strings < 2:
        return False
    if most_fuse_a is None:
        return True if strings > 2 else None
    return (strings - 1) * LASTING * short_a > most_fuse_a
