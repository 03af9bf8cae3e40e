"""Everything the Fit-out shows: parts, steps, the first sun, bench tests, the list before the first trip."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, Field

from parhelion.design import BoatDesign
from parhelion.design.part import out_of_reach
from parhelion.design.records import (
    EARLIEST_YEAR,
    LATEST_YEAR,
    NO_RECORDS,
    HandShadow,
    Records,
    SunNote,
    System,
)
from parhelion.diagnosis.reading import Means
from parhelion.stations.fitout.before import ticks_of
from parhelion.stations.fitout.bench import PanelTest, panel_tests
from parhelion.stations.fitout.cells import assumed, fitout_cells
from parhelion.stations.fitout.diagram import arrangement, diagram_of
from parhelion.stations.fitout.dock import other_tests
from parhelion.stations.fitout.frames import frames_shown
from parhelion.stations.fitout.now import Now, air_at, light_of, then_of, usual_now
from parhelion.stations.fitout.parts import Line, Sums, lines_of, sums_of
from parhelion.stations.fitout.shown import (
    CheckShown,
    FitoutPicture,
    GaugeShown,
    ItemShown,
    Minute,
    Money,
    PartLine,
    Progress,
    StepOut,
    SunArcPoint,
    SystemSum,
    TestShown,
    ZoneShown,
)
from parhelion.stations.fitout.steps import LIVE_V, Proved, StepShown, next_step, shown_steps
from parhelion.stations.fitout.sun import Gauge, gauges_of
from parhelion.stations.fitout.words import gauge_words, meaning_words, test_words
from parhelion.sun.daysteps import day_at
from parhelion.sun.zone import zone_at

GOOD_LIGHT_DEG = 25.0  # from here up the sun is high enough for a first sun to say much


def _line(line: Line) -> PartLine:
    part, note = line.part, line.note
    return PartLine(
        key=part.key,
        name=part.name if note is None or not (line.own or line.gone) else note.name,
        system=part.system,
        quantity=line.quantity,
        unit=part.unit,
        price=line.price,
        cost=line.cost,
        mass_kg=line.mass,
        each_kg=line.mass_kg,
        state=line.state,
        used=note is not None and note.used,
        due=note.due if note else None,
        note=note.note if note else "",
        link=note.link if note else "",
        note_id=note.id if note else None,
        bought=note.quantity if note else None,
        price_at=part.price_at,
        mass_at=part.mass_at,
        guessed=line.guessed,
        own=line.own,
        gone=line.gone,
        short=line.short,
        why=part.why,
    )


def _systems(lines: list[Line]) -> list[SystemSum]:
    found = []
    for system in System:
        mine = [line for line in lines if line.part.system is system and not line.gone]
        if not mine:
            continue
        sums = sums_of(mine)
        found.append(
            SystemSum(
                system=system,
                label=system.label,
                lines=[_line(line) for line in mine],
                cost=sums.cost,
                paid=sums.paid,
                ordered=sums.ordered,
                to_buy=sums.to_buy,
                mass_kg=sums.mass_kg,
                no_price=sums.no_price,
                no_mass=sums.no_mass,
            )
        )
    return found


def _money(records: Records, sums: Sums) -> Money:
    money = records.money
    return Money(
        currency=money.currency,
        budget=money.budget,
        cost=sums.cost,
        paid=sums.paid,
        ordered=sums.ordered,
        to_buy=sums.to_buy,
        guessed=sums.guessed,
        mass_kg=sums.mass_kg,
        no_price=sums.no_price,
        no_mass=sums.no_mass,
        have=sums.have,
        on_order=sums.on_order,
        missing=sums.missing,
    )


def _item(proved: Proved) -> ItemShown:
    item, note = proved.item, proved.note
    circuit = item.circuit
    sound = next((zone for zone in item.zones if zone.means is Means.AS_EXPECTED), None)
    means = proved.means
    return ItemShown(
        key=item.key,
        name=item.name,
        of=item.of,
        unit=item.unit,
        note_id=note.id if note else None,
        at=note.at if note else None,
        by=note.by if note else "",
        note=note.note if note else "",
        reading=note.reading if note else None,
        means=means,
        verdict=means.label if means is not None and note is not None else "",
        check=meaning_words(means) if means is not None else "",
        good=proved.good,
        wrong=proved.wrong,
        stale=proved.stale,
        zones=[
            ZoneShown(from_v=z.from_v, to_v=z.to_v, means=z.means, label=z.means.label) for z in item.zones
        ],
        expected_v=(sound.from_v, sound.to_v) if sound else None,
        limit_v=circuit.limit_v if circuit else None,
        cold_v=circuit.cold_v if circuit else None,
    )


def _step(shown: StepShown) -> StepOut:
    step = shown.step
    return StepOut(
        key=step.key,
        kind=step.kind,
        number=shown.number,
        title=step.title,
        what=step.what,
        meter=step.meter,
        on=step.on,
        live_v=step.live_v if step.live_v is not None and step.live_v >= LIVE_V else None,
        back=step.back,
        done=shown.done,
        wrong=shown.wrong,
        stale=shown.stale,
        items=[_item(proved) for proved in shown.items],
    )


def _gauge(gauge: Gauge, readings: list[SunNote], now: Now) -> GaugeShown:
    e, box = gauge.expected, gauge.box
    lit = e is not None and not e.dark
    title, detail = gauge_words(gauge)
    here = gauge.note is not None and gauge.note.at == now.at
    top = max([*([e.watts.high] if e else []), (gauge.read_w or 0.0) if here else 0.0, 1.0]) * 1.12
    return GaugeShown(
        key=box.key,
        name=box.name,
        controller=box.circuits[0].controller.name,
        nameplate_w=box.nameplate_w,
        arrangement=" + ".join(arrangement(c, c.per_box) for c in box.circuits),
        boxes=box.boxes,
        away=e is None,
        dark=e is not None and e.dark,
        watts=tuple(e.watts) if e and lit else None,
        volts=tuple(e.volts) if e and lit else None,
        amps=tuple(e.amps) if e and lit else None,
        open_v=tuple(e.open_volts) if e and lit else None,
        top_w=top,
        marks=gauge.marks,
        last=gauge.note,
        readings=readings[-12:],
        read_w=gauge.read_w,
        then_w=tuple(gauge.then.watts) if gauge.then else None,
        means=gauge.meaning.means if gauge.meaning else None,
        cannot_tell=gauge.meaning.cannot_tell if gauge.meaning else False,
        title=title,
        detail=detail,
        proven=gauge.proven,
        here=here,
    )


def _minute(design: BoatDesign, now: Now) -> Minute:
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    day = day_at(design.site.spot, now.at.astimezone(zone).date())
    start = day.starts_at.replace(hour=0, minute=0, second=0, microsecond=0)
    hours = [
        (m - start).total_seconds() / 3600 for m in (day.at_index(i + 0.5) for i in range(0, day.steps, 3))
    ]
    high = day.elevation_deg[::3]
    until = int(day.dusk_index) // 3 + 1  # the day begins at sunrise
    arc = [SunArcPoint(hour=h, elevation_deg=float(e)) for h, e in zip(hours, high, strict=True)][:until]
    good = [point.hour for point in arc if point.elevation_deg >= GOOD_LIGHT_DEG]
    local = now.at.astimezone(zone)
    return Minute(
        at=local,
        zone=str(zone),
        shadow=now.shadow,
        heading_deg=now.heading_deg,
        air_c=air_at(design, now),
        air_given=now.air_c is not None,
        wiped=now.wiped,
        elevation_deg=float(light_of(design, now).day.elevation_deg[0]),
        hour=local.hour + local.minute / 60,
        arc=arc,
        good_from_h=min(good, default=None),
        good_to_h=max(good, default=None),
    )


def _test(test: PanelTest) -> TestShown:
    found, group = test.found, test.group
    title, detail = test_words(test)
    return TestShown(
        note=test.note,
        label=None if group is None else group.model or f"{group.nameplate_w:g} W",
        group_index=test.group_index,
        label_w=group.nameplate_w if group else None,
        points=[(v, a) for v, a in test.note.points],
        curve=found.curve.points() if found else [],
        label_curve=found.labelled.points() if found else [],
        best_v=found.test_best[0] if found else None,
        best_a=found.test_best[1] if found else None,
        test_w=found.test_w if found else None,
        fill=found.fill if found else None,
        open_v=found.curve.open_v if found else None,
        short_a=found.short_a if found else None,
        standard_w=found.standard_w if found else None,
        standard_spread=found.standard_spread if found else None,
        share=found.share_of_label if found else None,
        off=list(found.off) if found else [],
        verdict=found.verdict if found else None,
        title=title,
        detail=detail,
        problem=test.problem,
    )


def _plausible(moment: datetime) -> datetime:
    if not EARLIEST_YEAR <= moment.year <= LATEST_YEAR:
        raise out_of_reach(
            "The year {year} is out of reach.", "", f"{EARLIEST_YEAR} to {LATEST_YEAR}", year=moment.year
        )
    return moment


Moment = Annotated[datetime, AfterValidator(_plausible)]  # without an offset: by the boat's own clock


def now_of(
    design: BoatDesign, records: Records, at: datetime | None, shadow: HandShadow | None,
    heading_deg: float | None, air_c: float | None, wiped: bool | None,
) -> Now:  # fmt: skip
    """The minute that is asked about; where nobody says, that of the last reading, else the plan's noon."""
    usual = usual_now(design)
    last = max((note for notes in records.sun.values() for note in notes), key=lambda n: n.at, default=None)
    if at is None and last is not None:
        usual = then_of(last.at, last)
    if at is not None and at.tzinfo is None:
        at = at.replace(tzinfo=zone_at(design.site.latitude_deg, design.site.longitude_deg))
    return Now(
        at=usual.at if at is None else at,
        shadow=usual.shadow if shadow is None else shadow,
        heading_deg=usual.heading_deg if heading_deg is None else heading_deg,
        air_c=usual.air_c if air_c is None else air_c,
        wiped=usual.wiped if wiped is None else wiped,
    )


def fitout_picture(
    design: BoatDesign,
    records: Records = NO_RECORDS,
    at: Moment | None = None,
    shadow: HandShadow | None = None,
    heading_deg: Annotated[float | None, Field(ge=0, le=360)] = None,
    air_c: Annotated[float | None, Field(ge=-50, le=60)] = None,
    wiped: bool | None = None,
) -> FitoutPicture:
    """Everything the Fit-out shows of a boat at a minute.

    Parameters
    ----------
    design : BoatDesign
    records : Records
        What was bought, proved, read and ticked.
    at : datetime, optional
        The minute; that of the last reading where it is not given, else solar noon of the plan's day.
    shadow : HandShadow, optional
        How a hand's shadow looks in that minute.
    heading_deg, air_c : float, optional
        Of the boat [deg]; of the air [C].
    wiped : bool, optional
        Whether the panels were wiped.
    """
    now = now_of(design, records, at, shadow, heading_deg, air_c, wiped)
    lines = lines_of(design, records)
    asked = [line for line in lines if not line.gone]
    sums = sums_of(asked)
    steps = shown_steps(design, records, now)
    gauges = gauges_of(design, records, now)
    tests = panel_tests(design, records)
    others = other_tests(design, records)
    checks = ticks_of(design, records)
    first = next_step(steps)
    frames = frames_shown(design)
    notes = records.sun
    return FitoutPicture(
        cells=fitout_cells(steps, lines, sums, records.money, gauges),
        assumes=assumed(now, design),
        progress=[
            Progress(key="parts", done=sums.have, of=len(asked)),
            Progress(
                key="frames",
                done=sum(f.framed and not f.no_size and not f.lies for f in frames),
                of=sum(not f.lies for f in frames),
            ),
            Progress(key="connecting", done=sum(step.done for step in steps), of=len(steps)),
            Progress(key="sun", done=sum(gauge.proven for gauge in gauges), of=len(gauges)),
            Progress(
                key="tests",
                done=sum(test.found is not None for test in tests) + sum(other.done for other in others),
                of=len(tests) + len(others),
            ),
            Progress(key="before", done=sum(tick is not None for _, tick in checks), of=len(checks)),
        ],
        money=_money(records, sums),
        systems=_systems(lines),
        gone=[_line(line) for line in lines if line.gone],
        steps=[_step(step) for step in steps],
        next_step=None if first is None else first.step.key,
        diagram=diagram_of(design, steps),
        minute=_minute(design, now),
        frames=frames,
        gauges=[_gauge(gauge, notes.get(gauge.box.key, []), now) for gauge in gauges],
        tests=[_test(test) for test in tests],
        others=others,
        checks=[
            CheckShown(
                key=check.key,
                words=check.words,
                harm=check.harm,
                note_id=tick.id if tick else None,
                at=tick.at if tick else None,
            )
            for check, tick in checks
        ],
    )
