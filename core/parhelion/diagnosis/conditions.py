"""What may be behind the readings of a day: causes by name, whether they are faults, and the one check "
"of each."""

from __future__ import annotations

from parhelion.design.part import Choice


class Condition(Choice):
    """What a day's readings may mean."""

    FINE = "fine", "nothing is wrong"
    FULL = "full", "the bank is full and holds the panels back"
    OVERCAST = "overcast", "an overcast sky, nothing wrong"
    NOISY = "noisy", "gaps and noise in the readings, nothing wrong"
    STRING_DEAD = "string_dead", "a string gives nothing"
    SUBSTRING_SHADE = "substring_shade", "shade, or a fault, takes part of a panel out"
    SOILING = "soiling", "dirt on the panels"
    HOT = "hot", "panels hotter than they should be"
    HIGH_RESISTANCE = "high_resistance", "a bad joint between panels and controller"
    NOT_TRACKING = "not_tracking", "the controller does not track"
    CHARGE_PROFILE = "charge_profile", "the charging volts are set wrong"
    COLD_BLOCK = "cold_block", "charging is blocked by the cold"
    METER_OFFSET = "meter_offset", "the shunt does not read zero at rest"
    METER_GAIN = "meter_gain", "the shunt reads too much or too little"
    SOC_DRIFT = "soc_drift", "the meter of charge has lost count"
    PV_FUSE = "pv_fuse", "the panels' fuse or breaker is open"
    REVERSED = "reversed", "the panels' plus and minus are swapped, or no plug is in"
    PV_BELOW_BANK = "pv_below_bank", "the strings have too few volts for the bank"
    CLOCK = "clock", "the clock of the readings is off"
    ASPECT = "aspect", "the panels face another way than the design says"
    WEAK_CELL = "weak_cell", "a weak cell, or a tired bank"
    FOULING = "fouling", "the hull or the propeller is fouled"
    VENTILATION = "ventilation", "the propeller draws air in a chop"


NOTHING_WRONG = (Condition.FINE, Condition.FULL, Condition.OVERCAST, Condition.NOISY)

CHECKS = {
    Condition.FINE: "none",
    Condition.FULL: "switch a load on: the watts must rise at once",
    Condition.OVERCAST: "look again under a clear sky before touching anything",
    Condition.NOISY: "none; look at the data cable's plugs if the gaps go on",
    Condition.STRING_DEAD: "clamp the amps of each string, or take the open volts of each at its plug",
    Condition.SUBSTRING_SHADE: "look along the sun at the panels at that hour; move the shade or turn the "
    "boat "
    "and see whether the volts return",
    Condition.SOILING: "wash one panel and compare it with its neighbour within five minutes",
    Condition.HOT: "open volts in strong sun, or a thermometer on the back: heat lowers open volts, a bad "
    "joint "
    "does not",
    Condition.HIGH_RESISTANCE: "volts at the panel and at the controller under the same amps; feel the "
    "plugs for "
    "warmth",
    Condition.NOT_TRACKING: "panel volts at noon on a low bank: pinned at the bank's? Read the "
    "controller's kind "
    "and mode",
    Condition.CHARGE_PROFILE: "read absorption and float volts in the controller and compare them with "
    "what the "
    "bank's maker asks",
    Condition.COLD_BLOCK: "the bank's temperature; wait: it clears by itself above freezing",
    Condition.METER_OFFSET: "all loads off and the panels covered: every ammeter must read zero",
    Condition.METER_GAIN: "one steady current through both meters, or a clamp meter",
    Condition.SOC_DRIFT: "charge until the volts stand at absorption and the amps have tailed off: that "
    "is 100 %",
    Condition.PV_FUSE: "volts on both sides of the fuse or breaker",
    Condition.REVERSED: "volts and polarity at the panel side, then at each plug",
    Condition.PV_BELOW_BANK: "open and working volts at the hottest hour against the bank's charging volts",
    Condition.CLOCK: "compare first and last light with the almanac",
    Condition.ASPECT: "compass and level on the panels",
    Condition.WEAK_CELL: "volts of each cell or unit under load",
    Condition.FOULING: "look at hull and propeller; one clean run both ways in calm",
    Condition.VENTILATION: "watch revolutions and wake in the chop; weight aft, or a deeper propeller",
}

# how often each is met before anything is read; invented, coarse, and named in docs/methods/log.md
PRIOR = {
    Condition.FINE: 0.20, Condition.FULL: 0.10, Condition.OVERCAST: 0.14, Condition.NOISY: 0.06,
    Condition.SOILING: 0.05, Condition.SUBSTRING_SHADE: 0.05, Condition.STRING_DEAD: 0.04,
    Condition.HOT: 0.04, Condition.HIGH_RESISTANCE: 0.03, Condition.NOT_TRACKING: 0.03,
    Condition.CHARGE_PROFILE: 0.03, Condition.COLD_BLOCK: 0.02, Condition.METER_OFFSET: 0.03,
    Condition.METER_GAIN: 0.03, Condition.SOC_DRIFT: 0.04, Condition.PV_FUSE: 0.02, Condition.REVERSED: 0.02,
    Condition.PV_BELOW_BANK: 0.02, Condition.CLOCK: 0.02, Condition.ASPECT: 0.02, Condition.WEAK_CELL: 0.03,
    Condition.FOULING: 0.04, Condition.VENTILATION: 0.03,
}  # fmt: skip
