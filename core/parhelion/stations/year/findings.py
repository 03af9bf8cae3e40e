"""What the Year tells before a season is computed: what its climate rests on, and where it cannot be."""

from __future__ import annotations

from datetime import date as Date

from parhelion.balance.outlook import Outlook
from parhelion.bank.store import FREEZING_C, taken_share, temperature_of
from parhelion.design.boat import BoatDesign
from parhelion.design.chemistries import CHEMICALS
from parhelion.finding import Finding, ordered
from parhelion.quantities import Fact, Why, count, fraction, sentence, temperature, words
from parhelion.stations.year.climate import ClimateMonth, climate_year
from parhelion.stations.year.season import MONTHS
from parhelion.sun.climate import is_ice, usual_air_temperature_c, usual_water_temperature_c
from parhelion.sun.generated import middle_day
from parhelion.sun.koppen import usual_word

SLOW_C = 4.0  # a lithium bank as cold takes less than half of its charge current
OFF_H = 0.06  # full-sun hours, before a month is told

SOURCE = "Sun: SPA position and Ineichen clear sky; days by Hollands and Huget about a monthly mean."


def _days(design: BoatDesign) -> list[Date]:
    """The middle of each month."""
    return [middle_day(design.plan.date.year, month) for month in range(1, 13)]


def cold_months(outlook: Outlook) -> Finding | None:
    """Months whose usual water, or air on deck, keeps a lithium bank from charging as it should."""
    design = outlook.design
    if design.bank is None or not CHEMICALS[design.bank.chemistry].lithium:
        return None
    cold: dict[str, float] = {}
    place = design.site
    for day in _days(design):
        air = usual_air_temperature_c(place.latitude_deg, day)
        water = usual_water_temperature_c(place.latitude_deg, day, place.water)
        celsius = temperature_of(design.bank, air, water)
        if celsius < SLOW_C:
            cold[MONTHS[day.month - 1]] = celsius
    if not cold:
        return None
    coldest = min(cold.values())
    stopped = coldest <= FREEZING_C
    return Finding(
        id="cold_months",
        level="warn" if MONTHS[design.plan.date.month - 1] in cold else "note",
        title=sentence(
            ("Too cold to charge in some of" if stopped else "Slow to charge in the cold") + ": {months}",
            months=words(", ".join(cold)),
        ),
        detail=sentence(
            "At {t}, the coldest of them, a lithium bank takes {x} of its usual charge current: sun is "
            "thrown away unless it drives the boat at once or the bank is kept warm.",
            t=temperature(coldest),
            x=fraction(taken_share(coldest)),
        ),
        why=Why(
            method="How warm the bank is in each month against what lithium may be charged at",
            source="Usual water and air by latitude and season; makers' charging limits come first.",
            inputs=[Fact(label=month, value=temperature(celsius)) for month, celsius in cold.items()],
            doc="season",
        ),
        field="/banks/0/temperature_c",
    )


def ice_months(outlook: Outlook) -> Finding | None:
    """Months in which the water of the place is usually ice."""
    place = outlook.design.site
    frozen = [
        MONTHS[day.month - 1] for day in _days(outlook.design) if is_ice(place.latitude_deg, day, place.water)
    ]
    if not frozen:
        return None
    return Finding(
        id="ice_months",
        level="note",
        title=sentence("The water here is usually ice: {months}", months=words(", ".join(frozen))),
        detail=sentence("What the year says of these months holds for open water only."),
        why=Why(
            method="Usual surface temperature by latitude and season, against freezing",
            source="A fit good to some 4 K; the water of the place comes first.",
            doc="bank",
        ),
        field="/site/latitude_deg",
    )


def impossible_sun(outlook: Outlook) -> Finding | None:
    """Months that are said to have more sun, or less, than the days of a month can have."""
    design = outlook.design
    off = [
        month
        for month in climate_year(design.site, design.plan.date.year).months
        if abs(month.asked_h - month.sun_h) > OFF_H
    ]
    if not off:
        return None
    worst = max(off, key=lambda month: abs(month.asked_h - month.sun_h))
    more = worst.asked_h > worst.sun_h
    return Finding(
        id="impossible_sun",
        level="warn",
        title=sentence("{months} cannot be as they are said to be", months=words(_named(off))),
        detail=sentence(
            "{month}: {a} full-sun hours a day are "
            + ("more than clear days there bring" if more else "less than the darkest month has")
            + "; counted as {b}.",
            month=words(MONTHS[worst.month - 1]),
            a=words(f"{worst.asked_h:.1f}"),
            b=words(f"{worst.sun_h:.1f}"),
        ),
        why=Why(method="A month of clear days, and the darkest that is known", source=SOURCE, doc="season"),
        field="/site/climate",
    )


def _named(months: list[ClimateMonth]) -> str:
    return ", ".join(MONTHS[month.month - 1] for month in months)


def usual_climate(outlook: Outlook) -> Finding | None:
    """Nothing was said of the climate: what is counted with."""
    climate = outlook.design.site.climate
    if climate.known_by != "word" or climate.word is not None:
        return None
    site = outlook.design.site
    word = usual_word(site.latitude_deg, site.longitude_deg)
    return Finding(
        id="usual_climate",
        level="note",
        title=sentence("The climate is a guess: {w}", w=words(word.value.replace("_", " "))),
        detail=sentence(
            "It is the usual one for the climate zone there. A word for the place, full-sun hours by month "
            "or a weather file make the year this place's own."
        ),
        why=Why(
            method="The climate zone of the place, or of the nearest shore; far out the latitude",
            source=SOURCE,
            inputs=[Fact(label="Months", value=count(12))],
            doc="season",
        ),
        field="/site/climate",
    )


RULES = (cold_months, ice_months, impossible_sun, usual_climate)


def year_findings(outlook: Outlook) -> list[Finding]:
    """Everything the Year tells, warnings first."""
    return ordered([rule(outlook) for rule in RULES])
