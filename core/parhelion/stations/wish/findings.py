"""What the Wish tells: whether she does it as she is, what turns it, and what a drawing is not."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook, outlook_of
from parhelion.design import BoatDesign, PanelGroup
from parhelion.design.wish import MonthName, Wish
from parhelion.finding import Finding, ordered
from parhelion.panels.layout import most_that_fit
from parhelion.quantities import (
    Fact,
    Sentence,
    Why,
    count,
    fraction,
    length,
    money,
    sentence,
    so_many,
    speed,
    words,
)
from parhelion.quantities import volts as volts_of
from parhelion.stations.wish.fulfilled import AskMet
from parhelion.stations.wish.picture import WishPicture, wish_picture
from parhelion.stations.wish.places import allowed_places
from parhelion.stations.wish.search import MORE
from parhelion.stations.wish.stores import bank_volts, gives, in_series, motors_for, units_for
from parhelion.stations.wish.unclear import unclear

SOURCE = "Days drawn from the place's climate, run one after the other; docs/methods/wish."
METHOD = "The same days for every boat: sun to the house, the motor, the bank, half hour by half hour"


def _why(facts: list[Fact], band: str | None = None) -> Why:
    return Why(method=METHOD, source=SOURCE, inputs=facts, band=sentence(band) if band else None, doc="wish")


def nothing_wished(picture: WishPicture) -> Finding | None:
    if picture.refused is None or picture.field != "/wish":
        return None
    return Finding(
        id="nothing_wished", level="note", title=sentence("What should she do?"),
        detail=sentence(
            "Say a distance at a speed, hours, a night or a stay, on which days and how surely; then boats "
            "that do it are looked for within your money."
        ),
        why=_why([]), field="/wish",
    )  # fmt: skip


def unclear_wish(design: BoatDesign, wish: Wish) -> Finding | None:
    why = unclear(design, wish)
    if why is None or why[1] == "/wish":
        return None
    return Finding(
        id="unclear_wish", level="warn", title=why[0],
        detail=sentence("Nothing is looked for until that is clear."), why=_why([]), field=why[1],
    )  # fmt: skip


def as_she_is(design: BoatDesign, picture: WishPicture) -> Finding | None:
    """How much of the wish the boat does as she is."""
    if picture.reach is None or picture.reaches is None or picture.whole is None:
        return None
    facts = [Fact(label=_plain(design, met.id), value=fraction(met.surely_frac)) for met in picture.met]
    band = "Of some 80 days drawn for each thing wished; nine of ten is told to within three in a hundred."
    if picture.stretch >= 1:
        return Finding(
            id="wish_met", level="good", title=sentence("She does it as she is"),
            detail=picture.reaches,
            why=_why(facts, band),
        )  # fmt: skip
    return Finding(
        id="wish_not_met", level="note",
        title=sentence("As she is: {far} of {whole}", far=picture.reach, whole=picture.whole),
        detail=picture.nothing or _share_of_days(picture.met), why=_why(facts, band),
    )  # fmt: skip


def _share_of_days(met: list[AskMet]) -> Sentence:
    """On how many of the days asked the wish is done as stated, and in which month on fewest."""
    least = min(met, key=lambda ask: ask.surely_frac - ask.wanted_frac)
    if least.surely_frac == 0:
        return sentence("On none of the days asked as stated.")
    if len(least.months) < 2:
        return sentence("{x} of the days asked as stated.", x=fraction(least.surely_frac))
    hardest = min(least.months, key=lambda month: month.frac)
    return sentence(
        "{x} of the days asked as stated, fewest in {month}: {y}.", x=fraction(least.surely_frac),
        month=words(list(MonthName)[hardest.month - 1].label), y=fraction(hardest.frac),
    )  # fmt: skip


def _plain(design: BoatDesign, ask_id: str) -> str:
    ask = next(ask for ask in (design.wish or Wish()).asks if ask.id == ask_id)
    return ask.kind.label[0].upper() + ask.kind.label[1:]


def shed_does_not_fit(design: BoatDesign) -> list[Finding | None]:
    """Panels in the shed that no allowed place takes."""
    wish = design.wish or Wish()
    places = allowed_places(design, wish)
    found: list[Finding | None] = []
    for number, own in enumerate(wish.owned):
        lying = PanelGroup(
            **{n: getattr(own, n) for n in type(own).model_fields if n not in ("id", "count")},
            id="shed", place_id="shed", controller_id="shed",
        )  # fmt: skip
        if any(most_that_fit(place, lying, turned) for place in places for turned in (False, True)):
            continue
        found.append(
            Finding(
                id=f"shed_does_not_fit/{own.id}", level="warn",
                title=sentence(
                    "From the shed, nowhere to fit: " + so_many(own.count, "panel"), n=count(own.count)
                ),
                detail=sentence(
                    "Each is {a} by {b}; no place you allow is that large. Allow another, or leave them out.",
                    a=length(lying.width), b=length(lying.length),
                ),
                why=_why([Fact(label="Places allowed", value=count(len(places)))]),
                field=f"/wish/owned/{number}/count",
            )
        )  # fmt: skip
    return found


def too_fast(outlook: Outlook, wish: Wish) -> list[Finding | None]:
    """Speeds wished that her motor does not give."""
    found: list[Finding | None] = []
    top = float(outlook.curve.speed_at(outlook.rated_w))
    for number, ask in enumerate(wish.asks):
        if not ask.moves or ask.speed_mps <= top:
            continue
        found.append(
            Finding(
                id=f"wished_too_fast/{ask.id}", level="note",
                title=sentence("Her motor ends at {v}", v=speed(top)),
                detail=sentence(
                    "{what}: a larger motor is looked at where one of the list gives it; slower costs less.",
                    what=words(ask.kind.label[0].upper() + ask.kind.label[1:]),
                ),
                why=_why([Fact(label="Wished", value=speed(ask.speed_mps)),
                          Fact(label="At all her watts", value=speed(top))]),
                field=f"/wish/asks/{number}/speed_mps",
            )
        )  # fmt: skip
    return found


def own_batteries(design: BoatDesign, wish: Wish) -> Finding | None:
    """Batteries of one's own list that no bank can be made of."""
    volts = bank_volts(design, wish)
    allowed = units_for(wish)
    fit = [unit for unit in allowed if any(in_series(unit, v) for v in volts)]
    if not wish.own_units or len(fit) == len(wish.own_units):
        return None
    of_kind, of_volts = len(wish.own_units) - len(allowed), len(allowed) - len(fit)
    return Finding(
        id="own_batteries", level="note" if fit else "warn",
        title=sentence("{n} of the {all} batteries on your list are not looked at",
                       n=count(of_kind + of_volts), all=count(len(wish.own_units))),
        detail=sentence(
            "Of a chemistry you do not allow: {a}. Making no bank of {v}: {b}. Allow them, or another bank "
            "voltage.", a=count(of_kind), b=count(of_volts), v=volts_of(max(volts)),
        ),
        why=_why([]), field="/wish/chemistries" if of_kind else "/wish/other_volts",
    )  # fmt: skip


def own_motors(design: BoatDesign, wish: Wish) -> Finding | None:
    """A list of motors none of which gives the speed wished."""
    moving = [(number, ask) for number, ask in enumerate(wish.asks) if ask.moves]
    if not wish.own_motors or not moving:
        return None
    number, ask = max(moving, key=lambda item: item[1].speed_mps)
    if any(gives(design, wish, motor, ask.speed_mps) for motor in motors_for(design, wish)):
        return None
    return Finding(
        id="own_motors", level="note",
        title=sentence("No motor on your list gives {v}", v=speed(ask.speed_mps)),
        detail=sentence("With a tenth of its watts to spare. Hers is kept; a slower wish may be enough."),
        why=_why([]), field=f"/wish/asks/{number}/speed_mps",
    )  # fmt: skip


def no_money(wish: Wish) -> Finding | None:
    if not wish.asks or wish.coins > 0:
        return None
    return Finding(
        id="no_money", level="note", title=sentence("For nothing, only what is there already"),
        detail=sentence("Boats up to {c} are drawn beside it, to show what some would buy.",
                        c=money(MORE)),
        why=_why([]), field="/wish/coins",
    )  # fmt: skip


def only_a_drawing(wish: Wish) -> Finding | None:
    """The caution that stays."""
    if not wish.asks:
        return None
    return Finding(
        id="only_a_drawing", level="note", caution=True,
        title=sentence("A drawing to begin with, not a build plan"),
        detail=sentence(
            "Frames, fastenings, stability and wiring are for a builder and a qualified electrician; local "
            "codes and the boat's loading plate come first. Top weight is bounded here by rule alone."
        ),
        why=_why([]),
    )  # fmt: skip


def wish_findings(design: BoatDesign) -> list[Finding]:
    """Everything the Wish tells of a design."""
    wish, picture = design.wish or Wish(), wish_picture(design)
    advice = [
        nothing_wished(picture), as_she_is(design, picture), no_money(wish),
        *too_fast(outlook_of(design), wish), own_motors(design, wish), only_a_drawing(wish),
    ]  # fmt: skip
    return ordered([*advice, *wish_warnings(design)])


def wish_warnings(design: BoatDesign) -> list[Finding]:
    """All that may be a warning, without the days that tell how much of the wish she does."""
    wish = design.wish or Wish()
    return ordered([unclear_wish(design, wish), *shed_does_not_fit(design), own_batteries(design, wish)])
