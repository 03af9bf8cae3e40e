"""The Fit-out's cells of the answer rail: the next step, what is aboard, what is left to pay."""

from __future__ import annotations

from parhelion.design import BoatDesign
from parhelion.design.records import MoneyNote
from parhelion.quantities import Fact, Sentence, Why, clock, count, mass, money, sentence, temperature, words
from parhelion.rail.models import RailCell
from parhelion.stations.fitout.now import Now, air_at
from parhelion.stations.fitout.parts import Line, Sums
from parhelion.stations.fitout.steps import StepShown, next_step
from parhelion.stations.fitout.sun import Gauge
from parhelion.sun.zone import zone_at

SOURCE = "The design as it stands, and what was noted of the boat"


def assumed(now: Now, design: BoatDesign) -> Sentence:
    """The minute that readings are judged in."""
    local = now.at.astimezone(zone_at(design.site.latitude_deg, design.site.longitude_deg))
    given = "" if now.air_c is not None else " (usual)"
    wiped = "panels wiped" if now.wiped else "panels as they are"
    return sentence(
        f"{local.day} {local:%B %Y}, {{at}}, {design.site.name}: {now.shadow.label} shadows, air "
        f"{{air}}{given}, "
        f"{wiped}; usual prices are invented coins",
        at=clock(local.hour * 60 + local.minute),
        air=temperature(air_at(design, now)),
    )


def fitout_cells(
    steps: list[StepShown], lines: list[Line], sums: Sums, purse: MoneyNote, gauges: list[Gauge]
) -> list[RailCell]:
    """The three cells in their order."""
    return [_next(steps, gauges), _aboard(lines, sums), _left(sums, purse)]


def _next(steps: list[StepShown], gauges: list[Gauge]) -> RailCell:
    step = next_step(steps)
    done = sum(one.done for one in steps)
    proven = sum(gauge.proven for gauge in gauges)
    if step is None:
        lines = [sentence("every step is proved")]
        if gauges:
            lines.append(sentence("first sun: {n} of {of}", n=count(proven), of=count(len(gauges))))
        value = words("all proved")
    else:
        lines = [sentence(step.step.title)]
        wrong = next((item for item in step.items if item.wrong), None)
        if wrong is not None and wrong.means is not None:
            lines.append(sentence(f"{wrong.item.name} is not as it should be"))
        elif step.stale:
            lines.append(sentence("the design has changed since it was proved"))
        value = words(f"{step.number} of {len(steps)}")
    return RailCell(
        key="next_step",
        label="Next step",
        value=value,
        lines=lines,
        assumes=sentence("in the order that keeps it safe"),
        why=Why(
            method="The first step of the order that is not proved, or was proved of another wiring",
            source=SOURCE,
            inputs=[Fact(label="Proved", value=count(done))],
            doc="connecting",
        ),
    )


def _aboard(lines: list[Line], sums: Sums) -> RailCell:
    asked = [line for line in lines if not line.gone]
    told = [
        sentence("{o} on order, {b} to buy", o=count(sums.on_order), b=count(sums.missing)),
        sentence("{m} when all is in", m=mass(sums.mass_kg)),
    ]
    return RailCell(
        key="aboard",
        label="Aboard",
        value=words(f"{sums.have} of {len(asked)}"),
        lines=told,
        assumes=sentence("lines of the parts list; the hull's own mass is not among them"),
        why=Why(
            method="Lines of the list that are noted as aboard",
            source=SOURCE,
            inputs=[Fact(label="Lines", value=count(len(asked)))],
            doc="parts",
        ),
    )


def _left(sums: Sums, purse: MoneyNote) -> RailCell:
    left = sums.ordered + sums.to_buy
    told = [sentence("{o} of it on order", o=money(sums.ordered))]
    if sums.no_price:
        told.append(sentence("{n} without a price are not in it", n=count(sums.no_price)))
    elif purse.budget is not None:
        over = sums.cost - purse.budget
        told.append(
            sentence("{m} over the budget", m=money(over))
            if over > 0
            else sentence("{m} of the budget are free", m=money(-over))
        )
    return RailCell(
        key="left_to_pay",
        label="Left to pay",
        value=money(left),
        lines=told,
        assumes=sentence("own prices first, usual ones elsewhere"),
        why=Why(
            method="Price times pieces of what is on order and to buy",
            source=SOURCE,
            inputs=[
                Fact(label="All of it", value=money(sums.cost)),
                Fact(label="Paid", value=money(sums.paid)),
                Fact(label="Of it at usual prices", value=money(sums.guessed)),
            ],
            doc="parts",
        ),
    )
