"""The questions of the public face, each in a word."""

from __future__ import annotations

from datetime import datetime

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.rail.answers import answers_for
from parhelion.rail.models import Answers
from parhelion.stations.day.picture import DayPicture, day_picture
from parhelion.stations.passage.picture import PassagePicture, passage_picture
from parhelion.stations.year.season import WholeSeason
from parhelion.stations.year.season import season as whole_season


def answers(design: BoatDesign, at: datetime | None = None) -> Answers:
    """The answer rail of a boat: how fast and how far on the sun alone, and what holds it back.

    Parameters
    ----------
    design : BoatDesign
    at : datetime, optional
        The moment that "now" means; solar noon where it is not given.
    """
    return answers_for(design, at)


def day(design: BoatDesign) -> DayPicture:
    """The plan's day, step by step: harvest, house, motor, bank.

    Parameters
    ----------
    design : BoatDesign
    """
    return day_picture(outlook_of(design))


def season(design: BoatDesign) -> WholeSeason:
    """The year on the days that the boat's place has.

    Parameters
    ----------
    design : BoatDesign
    """
    return whole_season(design)


def passage(design: BoatDesign) -> PassagePicture | None:
    """The boat's passage as it is set: marks, hours, charge, departures, the last turn; None without one.

    Parameters
    ----------
    design : BoatDesign
    """
    return passage_picture(design)
