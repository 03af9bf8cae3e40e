"""What the Log shows, as plain data."""

from __future__ import annotations

from datetime import datetime

from parhelion.design import Sky
from parhelion.design.logbook import Outing, Reading
from parhelion.design.refit import Refit
from parhelion.diagnosis.conditions import Condition
from parhelion.quantities import Frozen, Quantity, Sentence
from parhelion.rail.models import RailCell

Series = list[float | None]


class OutingLine(Frozen):
    """An outing in the list, newest first."""

    outing: Outing
    readings: int
    skies: list[str]  # the words that held, in their order
    way_m: float
    opened: bool


class SkySpan(Frozen):
    word: Sky
    label: str
    from_min: float
    to_min: float
    noted: bool


class SpeedSpan(Frozen):
    """A stretch at about one speed."""

    from_min: float
    to_min: float
    speed_mps: float


class InputName(Frozen):
    """A controller whose panels were read."""

    key: str
    name: str


class ReadMark(Frozen):
    """A row in which something was read; `of` a controller."""

    minute: float
    value: float
    of: str | None = None
    throttled: bool = False
    low: bool = False  # below what its sky may give, the bank not full


class StretchTold(Frozen):
    """Something that is said of a stretch of the day."""

    from_min: float
    to_min: float
    words: Sentence


class LikelyShown(Frozen):
    """A cause, how likely it is, what speaks for it and against, and the check."""

    condition: Condition
    label: str
    odds: float
    fault: bool
    check: str
    speaks: list[str]
    against: list[str]
    clock_ahead_s: float | None = None  # what sets the clock right, where it is that


class DayMeaning(Frozen):
    """The causes behind a day's readings, of the whole boat or of one controller's panels."""

    of: str | None
    name: str
    ranked: list[LikelyShown]
    either: bool
    from_min: float | None
    to_min: float | None


class ReadingLine(Frozen):
    """A reading in the list."""

    reading: Reading
    minute: float
    of_name: str
    source: str
    row: int


class RunOffered(Frozen):
    """An outing's steady speed and watts, to be put among the Hull's runs."""

    words: Sentence
    refit: Refit | None
    reason: Sentence | None  # why it is not offered


class TrackPlace(Frozen):
    """A place of a track, in metres from the first; whether the sun paid there, null where no motor ran."""

    minute: float
    east_m: float
    north_m: float
    sun_pays: bool | None


class TrackHour(Frozen):
    """Where she was at a full hour."""

    minute: float
    east_m: float
    north_m: float


class Track(Frozen):
    """Where an outing went."""

    places: list[TrackPlace]
    hours: list[TrackHour]
    else_paid: str  # in words, who paid where the sun did not


class DayShown(Frozen):
    """The day as it went. Series run over the ten-minute steps between its edges; null where unknown."""

    outing: Outing
    date: str
    zone: str
    starts_at: datetime  # midnight: minutes are counted from it
    from_min: float
    to_min: float
    minutes: list[float]  # at the middles of the steps, after midnight
    skies: list[SkySpan]
    modelled_w: Series
    low_w: Series  # 1 of 10 such skies gives less
    high_w: Series
    harvested_w: Series
    thrown_w: Series
    house_w: Series
    motor_w: Series
    motor_model_w: Series
    soc_model: Series
    speeds: list[SpeedSpan]
    boxes: list[InputName]
    pv: list[ReadMark]
    motor: list[ReadMark]
    soc: list[ReadMark]
    shares: list[ReadMark]
    told: list[StretchTold]
    track: Track | None  # where places were read
    run: RunOffered | None
    readings: list[ReadingLine]
    more_readings: int
    way_m: float
    planned_m: float | None
    under_way_h: float
    harvest_wh: float
    modelled_wh: float  # over the same hours
    thrown_wh: float
    used_wh: float
    motor_wh: float
    house_wh: float
    last_soc: float | None
    last_soc_model: float | None
    top_w: float
    bottom_w: float


class PassageToBegin(Frozen):
    """The passage that is planned, as an outing begins with it."""

    name: str
    distance_m: float


class LogPicture(Frozen):
    """Outings, and the one that is open."""

    cells: list[RailCell]
    assumes: Sentence
    outings: list[OutingLine]
    way_m: float
    day: DayShown | None
    inputs: list[InputName]  # what can be read on its own
    passage: PassageToBegin | None  # that the design has
    kept: Sentence  # for how long, of what devices read


class TiltShown(Frozen):
    """What moving a wing has told so far."""

    readings: int
    best_deg: float | None
    from_deg: float | None
    to_deg: float | None
    spread_deg: float | None
    words: Sentence


class NowShown(Frozen):
    """What the last readings say, large."""

    at: datetime | None
    heard: bool  # whether devices say it this moment
    old_min: float | None  # since the oldest of what is counted, at the moment asked about
    sun_w: float | None
    sun_read: bool
    out_w: float | None
    motor_w: float | None
    house_w: float | None
    soc: float | None
    stored_wh: float | None
    reserve: float | None
    speed_mps: float | None
    sun_pays_mps: float | None
    home_mps: float | None
    home_m: float | None
    home_h: float | None
    least_mps: float
    most_mps: float
    to_reserve_h: float | None
    to_full_h: float | None
    words: Sentence
    alarms: list[Sentence]
    tilt: TiltShown | None
    missing: list[str]


class Learned(Frozen):
    """What a season's readings say of one thing the design counts with."""

    key: str
    label: str
    value: float  # over the design's
    low: float
    high: float
    number: int
    of: str  # days, runs
    before_low: float  # what was known before
    before_high: float
    used: bool  # whether the design has it already
    words: Sentence
    refit: Refit | None
    reason: Sentence | None  # why it cannot be put in


class LogMonth(Frozen):
    label: str
    days: int
    way_m: float
    planned_m: float
    harvest_wh: float
    modelled_wh: float
    thrown_wh: float
    used_wh: float
    shore_wh: float
    sun_share: float | None


class OutingScore(Frozen):
    """Predicted against measured, of one outing."""

    outing_id: str
    name: str
    date: str
    harvest: float | None  # read over modelled
    hull: float | None
    planned: float | None  # distance done over planned


class SeasonShown(Frozen):
    """What a season came to and what it taught."""

    title: str
    months: list[LogMonth]
    whole: LogMonth
    learned: list[Learned]
    scores: list[OutingScore]
    best: str | None
    worst: str | None
    lowest_soc: float | None
    lowest_on: str | None
    broke: list[str]
    told: list[Sentence]
    laying_up: list[Sentence]
    left_out: int
    readings: int


class MetersShown(Frozen):
    """Two sources of one quantity."""

    quantity: str
    label: str
    a: str
    b: str
    gain: float | None
    gain_low: float | None
    gain_high: float | None
    offset: float | None
    lag_s: float | None
    ratio: float
    ratio_low: float
    ratio_high: float
    samples: int
    words: Sentence
    points: list[tuple[float, float]]


class MetersPicture(Frozen):
    pairs: list[MetersShown]
    balance_gain: Quantity | None
    balance_offset_a: float | None
    words: Sentence
