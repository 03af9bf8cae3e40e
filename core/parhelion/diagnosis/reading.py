"""Which causes fit a reading of volts and amps at the panels, in their order, and what tells them apart.

References
----------
[1] Each cause moves volts and amps in its own way: a string lost takes its share of the amps and leaves the
    volts, a panel lost takes its share of the volts and leaves the amps, a substring a third of that, a bank
    that is full lets the volts rise towards open, a controller that does not track holds the panels at the
    bank's volts. The likelihood is normal about what each cause shows, as wide as the expected band and the
    meter; every term is cut, so that one odd reading cannot outvote the other.
[2] Readings minutes apart share what does not change between them: the panels' own watts and the dirt on
    them in the amps, heat in the volts. The rest of their spread, the sky's, is each one's own.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from parhelion.design.part import Choice
from parhelion.diagnosis.expected import Band, Expected

MOST_TERM = 12.0  # of a log-likelihood
NORMAL_80 = 2.563  # width of a normal band from 1 of 10 to 9 of 10, in spreads
METER_V, METER_A, METER_FRAC = 0.15, 0.15, 0.005
NO_VOLTS_FRAC, OPEN_FRAC, DARK_A_FRAC = 0.1, 0.955, 0.012
THROTTLED_FRAC = 0.2  # of the way from best volts to open: above it the panels are held back
AT_BANK_V = 1.2  # this near the bank's volts the panels are not tracked
DISAGREE_FRAC, DISAGREE_W = 0.12, 8.0  # watts off volts times amps, past rounding and the time between
OFF_BEST = 1.015  # amps over those at the best volts, from which the panels stand off it
LIGHT_SHADE_KEEPS = 0.90  # of the amps: a thin spar's shadow, or dirt
HEAT_TAKES_K, LOSES_PER_K = 18.0, 0.005  # a cell far hotter than it should be, and what each kelvin takes
SHARED_A_FRAC, SHARED_V_FRAC, MOST_SHARED = 0.035, 0.012, 0.95  # of amps and volts, and of the spread [2]
EITHER = 0.1  # a second cause that fits this well beside the first makes it "either"
GLARE_OVER = 1.0  # spreads above the band's middle at least


class Means(Choice):
    """What a reading may mean."""

    AS_EXPECTED = "as_expected", "as it should be"
    FULL_BANK = "full_bank", "the bank is full and holds it back"
    NO_VOLTS = "no_volts", "no volts at all"
    DISCONNECTED = "disconnected", "a plug is open"
    REVERSED = "reversed", "plus and minus are swapped"
    NO_CURRENT = "no_current", "volts, and nothing flows"
    PV_FUSE = "pv_fuse", "a fuse or breaker is open"
    NOT_CHARGING = "not_charging", "charging is blocked"
    STRING_MISSING = "one_string_missing", "a string is missing"
    PANEL_MISSING = "one_panel_missing_in_series", "a panel of a string is missing"
    SHADED = "shaded", "shade, or dirt"
    SUBSTRING = "substring_shorted", "a substring is out"
    NOT_TRACKING = "not_tracking", "the controller does not track"
    BELOW_BANK = "below_bank", "too few volts for this bank"
    HOT = "hot", "hotter than it should be"
    BRIGHT = "cloud_edge", "brighter than a clear sky"
    OTHER_KIND = "other_kind", "too many volts: another panel, or one too many"
    METER = "meter", "the meters disagree"
    UNIT_MISSING = "unit_missing", "a unit of the bank is missing"
    NIGHT = "too_dark", "too dark to tell"
    UNCLEAR = "unclear", "fits nothing that is known"


CHECKS = {
    Means.AS_EXPECTED: "",
    Means.FULL_BANK: "bank volts at absorption or float: switch a load on and the watts must rise",
    Means.NO_VOLTS: "volts at the panel side of the breaker; then at each plug",
    Means.REVERSED: "meter at the leads: red on plus reads minus",
    Means.NO_CURRENT: "is the bank connected, are breaker and fuse closed, is charging blocked (cold, "
    "management), is the bank full?",
    Means.STRING_MISSING: "clamp each string; open-circuit volts of each",
    Means.PANEL_MISSING: "open volts of each panel",
    Means.SHADED: "look along the sun at every cell; shade one panel by hand and compare",
    Means.METER: "volts and amps at one moment, with one meter; then the display beside a clamp",
    Means.UNIT_MISSING: "volts of each unit; the link between them",
    Means.OTHER_KIND: "the label of each panel, and how many stand in series",
    Means.SUBSTRING: "open volts of each panel alone",
    Means.NOT_TRACKING: "is it a tracking controller, and set so? Wake it anew; read again in five minutes",
    Means.BELOW_BANK: "a longer string or a controller that boosts; better when it is cool",
    Means.HOT: "a hand or a thermometer on the back; open volts in strong sun",
    Means.BRIGHT: "read again when the cloud's edge has passed",
    Means.NIGHT: "read again with the sun 15° up or more",
    Means.UNCLEAR: "read volts and amps again, at one moment, with one meter",
}
OR_ELSE: dict[Means, tuple[Means, ...]] = {
    Means.NO_VOLTS: (Means.DISCONNECTED, Means.REVERSED),
    Means.NO_CURRENT: (Means.PV_FUSE, Means.NOT_CHARGING),
    Means.STRING_MISSING: (Means.SHADED,),
    Means.PANEL_MISSING: (Means.SHADED,),
    Means.SHADED: (Means.SUBSTRING,),
    Means.NOT_TRACKING: (Means.BELOW_BANK,),
}


class Read(NamedTuple):
    """What meters show; whatever was not read is left out."""

    pv_v: float | None = None
    pv_a: float | None = None
    pv_w: float | None = None
    bank_v: float | None = None
    bank_full: bool = False


@dataclass(frozen=True)
class Meaning:
    """The cause that fits best, what else shows the same, the check, and whether this sky can tell at all."""

    means: Means
    or_else: tuple[Means, ...] = ()
    cannot_tell: bool = False
    missing: int = 0  # strings or panels that are
    odds: float = 1.0  # of this cause among those that fit
    readings: int = 1  # that say it together

    @property
    def check(self) -> str:
        return CHECKS.get(self.means, "")

    @property
    def sound(self) -> bool:
        """Whether nothing is wrong."""
        return self.means in (Means.AS_EXPECTED, Means.FULL_BANK, Means.BRIGHT)


class Shown(NamedTuple):
    """What the meter would show of a cause."""

    means: Means
    volts: float
    amps: float
    missing: int = 0


def _spread(band: Band, meter: float) -> float:
    read = METER_FRAC * abs(band.middle)
    return float(np.hypot((band.high - band.low) / NORMAL_80, np.hypot(meter, read)))


def causes(expected: Expected) -> Iterator[Shown]:
    """What each cause would show at this minute [1]."""
    wired, volts, amps = expected.wired, expected.volts.middle, expected.amps.middle
    if expected.held_v is not None:
        yield Shown(Means.BELOW_BANK, expected.held_v, expected.held_a or 0.0)
    else:
        yield Shown(Means.AS_EXPECTED, volts, amps)
        yield Shown(Means.HOT, volts * (1 - LOSES_PER_K * HEAT_TAKES_K), amps)
    for missing in range(1, wired.parallel):
        yield Shown(Means.STRING_MISSING, volts, amps * (1 - missing / wired.parallel), missing)
    for missing in range(1, wired.series):
        yield Shown(Means.PANEL_MISSING, volts * (1 - missing / wired.series), amps, missing)
    parts = wired.series * wired.substrings
    for out in range(1, parts):
        if out % wired.substrings or wired.series == 1:
            yield Shown(Means.SHADED, volts * (1 - out / parts), amps)
    for keeps in (LIGHT_SHADE_KEEPS, 0.75, 0.5, 0.3):
        if keeps > 0.8 or all(abs(keeps - k / wired.parallel) > 0.1 for k in range(1, wired.parallel)):
            yield Shown(Means.SHADED, volts, amps * keeps)


def _plain(expected: Expected, read: Read) -> Means | None:
    """What needs no light to be told."""
    if read.pv_v is None:
        return _plain_watts(expected, read)
    open_v, amps = expected.open_v, 0.0 if read.pv_a is None else read.pv_a
    still = abs(amps) < max(DARK_A_FRAC * expected.pv_a, METER_A)
    best = expected.pv_v if expected.held_v is None else max(expected.held_v, expected.pv_v)
    over = (read.pv_v - best) / max(open_v - best, 1e-6)  # of the way from best volts to open
    told = (
        (Means.REVERSED, read.pv_v < -NO_VOLTS_FRAC * open_v),
        (Means.NIGHT, expected.dark),
        (Means.NO_VOLTS, abs(read.pv_v) < NO_VOLTS_FRAC * open_v and still),
        (Means.FULL_BANK, over > THROTTLED_FRAC and read.bank_full),
        (Means.FULL_BANK, over > 2 * THROTTLED_FRAC and not still),
        (Means.NO_CURRENT, still and read.pv_v > OPEN_FRAC * expected.open_volts.low),
    )
    return next((means for means, so in told if so), None)


def _plain_watts(expected: Expected, read: Read) -> Means | None:
    """The same of watts alone."""
    watts = read.pv_w or 0.0
    if expected.dark:
        return Means.NIGHT
    if read.bank_full and watts < expected.watts.low:
        return Means.FULL_BANK
    return Means.NO_CURRENT if watts < DARK_A_FRAC * expected.pv_w else None


def _disagree(read: Read) -> bool:
    """Whether watts that were read are not volts times amps."""
    if read.pv_w is None or read.pv_v is None or read.pv_a is None:
        return False
    product = read.pv_v * read.pv_a
    return abs(read.pv_w - product) > max(DISAGREE_FRAC * max(abs(product), abs(read.pv_w)), DISAGREE_W)


def _untracked(expected: Expected, read: Read) -> bool:
    """Whether the panels stand at the bank's volts though theirs are much higher."""
    bank_v = read.bank_v
    if bank_v is None or expected.held_v is not None or read.pv_a is None or read.pv_v is None:
        return False
    near = bank_v - 0.5 <= read.pv_v <= bank_v + AT_BANK_V
    return near and read.pv_v < expected.volts.low - AT_BANK_V and read.pv_a > expected.amps.low


class _Widths(NamedTuple):
    """One spread of each quantity."""

    volts: float
    amps: float
    watts: float


def _widths(expected: Expected) -> _Widths:
    return _Widths(
        _spread(expected.volts, METER_V), _spread(expected.amps, METER_A),
        _spread(expected.watts, METER_A * expected.pv_v),
    )  # fmt: skip


def _without_fit(expected: Expected, read: Read) -> Means | None:
    """What is told without holding causes against each other."""
    plain = _plain(expected, read)
    if plain is None and _disagree(read):
        return Means.METER
    if plain is None and _untracked(expected, read) and (read.pv_a or 0.0) > OFF_BEST * expected.pv_a:
        return Means.NOT_TRACKING  # below their best volts panels give more amps than at it
    if plain is None and _glares(expected, read, _widths(expected)):
        return Means.BRIGHT
    return plain


def _off(expected: Expected, read: Read, shown: Shown) -> dict[str, tuple[float, float]]:
    """Spreads that each quantity read is off a cause, and the share of the spread that lasts [2]."""
    wide, found = _widths(expected), {}
    amps, volts, watts = read.pv_a, read.pv_v, read.pv_w
    shared_v, shared_a = SHARED_V_FRAC * expected.volts.middle, SHARED_A_FRAC * expected.amps.middle
    if volts is not None:
        found["v"] = ((volts - shown.volts) / wide.volts, shared_v / wide.volts)
    if amps is not None:
        found["a"] = ((amps - shown.amps) / wide.amps, shared_a / wide.amps)
    if watts is not None and (volts is None or amps is None):  # else it says no more
        off = (watts - shown.volts * shown.amps) / wide.watts
        found["w"] = (off, SHARED_A_FRAC * expected.watts.middle / wide.watts)
    return found


def _fits(taken: Sequence[tuple[Expected, Read]], shown: Sequence[Shown]) -> float:
    """Log-likelihood of one cause over readings that share a part of their spread."""
    each = [_off(expected, read, one) for (expected, read), one in zip(taken, shown, strict=True)]
    total = 0.0
    for key in ("v", "a", "w"):
        told = [item[key] for item in each if key in item]
        if not told:
            continue
        off, lasting = (np.array(x) for x in zip(*told, strict=True))
        lasting = np.minimum(lasting, MOST_SHARED)
        together = np.outer(lasting, lasting)
        np.fill_diagonal(together, 1.0)
        total += min(float(off @ np.linalg.solve(together, off)) / 2, MOST_TERM)
    return -total


def meaning(expected: Expected, read: Read, earlier: Sequence[tuple[Expected, Read]] = ()) -> Meaning:
    """What a reading means, by itself or with those of the minutes before it.

    Parameters
    ----------
    expected : Expected
        Of this minute.
    read : Read
    earlier : sequence of (Expected, Read)
        Readings of the same panels minutes apart, each with what its own minute should show. Those that need
        no light, and those whose panels stood otherwise, say nothing here.

    Returns
    -------
    Meaning
    """
    plain = _without_fit(expected, read)
    if plain is not None:
        return Meaning(plain, OR_ELSE.get(plain, ()))
    untracked = _untracked(expected, read)
    kinds = [(shown.means, shown.missing) for shown in causes(expected)]
    taken = [
        one
        for one in earlier
        if _without_fit(*one) is None and [(c.means, c.missing) for c in causes(one[0])] == kinds
    ]
    taken.append((expected, read))
    found = [(_fits(taken, shown), shown[-1]) for shown in zip(*(causes(e) for e, _ in taken), strict=True)]
    best_fit, best = max(found, key=lambda pair: pair[0])
    if untracked and best_fit < -1.0:
        return Meaning(Means.NOT_TRACKING, OR_ELSE[Means.NOT_TRACKING])
    if best_fit <= -MOST_TERM:
        return Meaning(Means.UNCLEAR)
    by_cause: dict[Means, float] = {}
    for fit, shown in found:
        by_cause[shown.means] = max(by_cause.get(shown.means, 0.0), float(np.exp(fit - best_fit)))
    sound = by_cause.get(Means.AS_EXPECTED, 0.0)
    if best.means is Means.HOT and sound > EITHER:
        best = Shown(Means.AS_EXPECTED, best.volts, best.amps)  # a warm day alone is no fault
    either = best.means is not Means.AS_EXPECTED and sound > EITHER
    others = sorted(by_cause, key=lambda cause: -by_cause[cause])
    close = [
        m for m in others if by_cause[m] > EITHER and m not in (best.means, Means.AS_EXPECTED, Means.HOT)
    ]
    if untracked:
        close.append(Means.NOT_TRACKING)
    or_else = tuple(dict.fromkeys([*(close if best.means is not Means.AS_EXPECTED else ()),
                                   *OR_ELSE.get(best.means, ())]))  # fmt: skip
    return Meaning(best.means, or_else, either, best.missing, 1.0 / sum(by_cause.values()), len(taken))


def _glares(expected: Expected, read: Read, wide: _Widths) -> bool:
    """Whether more is read than a clear sky gives: the edge of a cloud."""
    if expected.held_v is not None:
        return False
    if read.pv_a is None:
        return read.pv_w is not None and read.pv_w > expected.watts.high + GLARE_OVER * wide.watts
    sound_volts = read.pv_v is None or read.pv_v > expected.volts.low - wide.volts
    return sound_volts and read.pv_a > expected.amps.high + GLARE_OVER * wide.amps


class Zone(NamedTuple):
    """Volts from and to, and what open volts there mean."""

    from_v: float
    to_v: float
    means: Means


ZONE_SIDE = 0.012  # of the volts, to either side of the expected band: meter, and panels that differ


def open_zones(expected: Expected) -> list[Zone]:
    """What a meter at the plugs of one string may show with nothing connected, from the least volts up."""
    wired, (low, _, high) = expected.wired, expected.open_volts
    low, high = low * (1 - ZONE_SIDE), high * (1 + ZONE_SIDE)
    blank = NO_VOLTS_FRAC * expected.open_v
    found = [Zone(-high, -low, Means.REVERSED), Zone(-blank, blank, Means.NO_VOLTS)]
    parts = wired.series * wired.substrings
    for out in range(1, parts):
        share = 1 - out / parts
        whole = out % wired.substrings == 0
        if whole or (out < wired.substrings and wired.series <= MOST_TOLD_SUBSTRINGS):
            means = Means.PANEL_MISSING if whole else Means.SUBSTRING
            found.append(Zone(low * share, high * share, means))
    return sorted([*found, Zone(low, high, Means.AS_EXPECTED)])


MOST_TOLD_SUBSTRINGS = 4  # panels in series, beyond which a third of one is lost in the band


def open_meaning(expected: Expected, volts: float) -> Means:
    """What the open volts of one string say: the zone they lie in, or the nearest."""
    if expected.dark and volts >= 0:
        return Means.NIGHT
    if volts < -NO_VOLTS_FRAC * expected.open_v:
        return Means.REVERSED
    zones = open_zones(expected)
    sound = zones[-1]
    if sound.from_v <= volts <= sound.to_v:
        return Means.AS_EXPECTED
    if volts > sound.to_v:
        return Means.OTHER_KIND
    inside = [zone for zone in zones if zone.from_v <= volts <= zone.to_v]
    if not inside:
        return Means.UNCLEAR
    return min(inside, key=lambda zone: abs((zone.from_v + zone.to_v) / 2 - volts)).means
