"""What the stations compute from a design posted whole; nothing here is saved."""

from __future__ import annotations

import hashlib
from datetime import UTC, datetime
from datetime import date as Date
from datetime import time as Time
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from parhelion.balance.outlook import outlook_of
from parhelion.data import controller_models, panel_models, places
from parhelion.design import BoatDesign, ControllerModel, PanelModel, Site
from parhelion.design.hulltypes import TYPICAL, HullType
from parhelion.design.new_boat import LOAD_PRESETS, LoadPreset
from parhelion.formats.controller_table import ReadControllers, read_controllers
from parhelion.formats.forecast_file import read_forecast
from parhelion.formats.module_table import ReadModules, read_modules
from parhelion.formats.runs_table import ReadRuns, read_runs, written_runs
from parhelion.formats.weather_file import ReadWeather, read_weather
from parhelion.stations.array.year import ThroughYear, through_year
from parhelion.stations.strings.boxes_year import BoxesThroughYear, boxes_through_year
from parhelion.rail.answers import answers_for
from parhelion.rail.furthest import Ways, ways_of
from parhelion.rail.models import Answers
from parhelion.rail.speeds import solve_steady, steady_mps
from parhelion.stations.array.burden import Burden, burden
from parhelion.stations.array.next_panel import NextPanels, next_panels
from parhelion.stations.array.picture import ArrayAdvice, ArrayPicture, array_advice, array_picture
from parhelion.stations.array.tilt import TiltAdvice, tilt_advice
from parhelion.stations.bank.picture import BankPicture, bank_picture
from parhelion.stations.bank.sizing import SizingAsk
from parhelion.stations.day.accounts import written_accounts
from parhelion.stations.day.picture import DayPicture, day_picture
from parhelion.stations.day.worths import Prices, prices_of
from parhelion.stations.hull.helm import helm_picture
from parhelion.stations.hull.helm_pdf import helm_card_pdf
from parhelion.stations.hull.helm import HelmCard, SpeedUnit
from parhelion.stations.hull.match import MatchPicture, match_picture
from parhelion.stations.hull.picture import HullPicture, RangePicture, hull_picture, range_picture
from parhelion.stations.strings.parts_table import written_parts
from parhelion.stations.strings.picture import StringsPicture, strings_picture
from parhelion.stations.strings.propose import Choice, first_legal
from parhelion.stations.strings.wiring_pdf import wiring_pdf
from parhelion.stations.registry import WarningCounts, warning_counts
from parhelion.stations.year.ahead import DaysAhead, days_ahead
from parhelion.stations.year.climate import ClimateYear, climate_year
from parhelion.sun.daysteps import day_steps
from parhelion.sun.forecast import LONGEST_DAYS, Forecast
from parhelion.wiring.circuits import wiring_of
from parhelion.wiring.parts import parts_of
from pydantic import Field

from stations.forecasts import forecast_for

router = Router(tags=["stations"])


class Asked(Schema):
    design: BoatDesign


class AskedAnswers(Asked):
    """`at` is the local clock time that "now" means; this minute where it is not given."""

    compared_with: BoatDesign | None = None
    at: Time | None = None


class Checked(Schema):
    content_hash: str


class AnswersOut(Checked):
    answers: Answers


class HullOut(Checked):
    picture: HullPicture


class DayOut(Checked):
    picture: DayPicture


class DaysAheadOut(Checked):
    ahead: DaysAhead | None


class PaceOut(Checked):
    """Null without a bank, without hours, or without panels."""

    ways: Ways | None
    prices: Prices | None


class AskedClimate(Schema):
    site: Site
    date: Date


class AskedForecast(AskedClimate):
    days: int = Field(default=7, ge=1, le=LONGEST_DAYS)


class ForecastFile(Schema):
    text: str = Field(max_length=200_000)


class RangeOut(Checked):
    picture: RangePicture


class MatchOut(Checked):
    picture: MatchPicture


class AskedBank(Asked):
    ask: SizingAsk | None = None


class BankOut(Checked):
    picture: BankPicture


class AskedArray(Asked):
    """The panel the sky is seen from: its group, and its number in it. A draft follows a drag."""

    group_id: str | None = None
    number: int = Field(default=0, ge=0, lt=400)
    draft: bool = False


class ArrayOut(Checked):
    picture: ArrayPicture


class ArrayAdviceOut(Checked):
    advice: ArrayAdvice


class TiltOut(Checked):
    advice: TiltAdvice


class BurdenOut(Checked):
    """No burden without panels."""

    burden: Burden | None


class NextPanelsOut(Checked):
    panels: NextPanels


class YearOut(Checked):
    year: ThroughYear


class ModuleTable(Schema):
    """A table of panels, and words to search their names for."""

    text: str = Field(max_length=20_000_000)
    search: str = Field(default="", max_length=80)


class WeatherFile(Schema):
    """A year of weather, and the latitude of the boat's place."""

    text: str = Field(max_length=8_000_000)
    latitude_deg: float = Field(ge=-90, le=90)


class ControllerTable(Schema):
    """A table of controllers."""

    text: str = Field(max_length=200_000)


class FirstLegalOut(Checked):
    choices: list[Choice]


class BoxesYearOut(Checked):
    year: BoxesThroughYear


class StringsOut(Checked):
    picture: StringsPicture


class AskedHelm(Asked):
    """`unit` is the one its rows are round in."""

    unit: SpeedUnit = "kn"


class HelmOut(Checked):
    card: HelmCard


class WarningsOut(Checked):
    warnings: WarningCounts


class PastedRuns(Schema):
    """Text of a spreadsheet or CSV file; `unit` is that of speeds which do not name their own."""

    text: str = Field(max_length=200_000)
    unit: SpeedUnit = "kn"
    taken_ids: list[str] = []


class HullTypeRow(Schema):
    """A hull type with its usual numbers, so that a form can show what an empty field means."""

    type: HullType
    label: str
    hulls: int
    efficiency: float
    waterline_length_m: float
    beam_m: float
    displacement_kg: float


def content_hash(design: BoatDesign) -> str:
    """A short digest of a design; replies carry it so that stale ones can be told."""
    return hashlib.sha256(design.model_dump_json().encode()).hexdigest()[:16]


@router.post("/check", response=Checked, operation_id="checkDesign")
def check(request: HttpRequest, body: Asked) -> Any:
    """Whether a design is valid; the problems with their fields where it is not."""
    return Checked(content_hash=content_hash(body.design))


@router.post("/answers", response=AnswersOut, operation_id="computeAnswers")
def answers(request: HttpRequest, body: AskedAnswers) -> Any:
    at = datetime.now(UTC)
    if body.at is not None:
        at = day_steps(body.design.site, body.design.plan.date).moment(body.at)
    found = answers_for(body.design, at, body.compared_with)
    return AnswersOut(content_hash=content_hash(body.design), answers=found)


@router.post("/hull/picture", response=HullOut, operation_id="drawHull")
def hull(request: HttpRequest, body: Asked) -> Any:
    return HullOut(content_hash=content_hash(body.design), picture=hull_picture(body.design))


@router.post("/day/picture", response=DayOut, operation_id="drawDay")
def day(request: HttpRequest, body: Asked) -> Any:
    return DayOut(content_hash=content_hash(body.design), picture=day_picture(body.design))


@router.post("/day/accounts.csv", operation_id="writeAccounts")
def accounts_file(request: HttpRequest, body: Asked) -> HttpResponse:
    """The day's energy accounts, every ten minutes."""
    return HttpResponse(written_accounts(outlook_of(body.design)), content_type="text/csv; charset=utf-8")


@router.post("/day/ahead", response=DaysAheadOut, operation_id="computeDaysAhead")
def day_ahead(request: HttpRequest, body: Asked) -> Any:
    """The plan's trip day by day; null without a bank."""
    return DaysAheadOut(content_hash=content_hash(body.design), ahead=days_ahead(body.design))


@router.post("/day/pace", response=PaceOut, operation_id="computePace")
def day_pace(request: HttpRequest, body: Asked) -> Any:
    """Ways to spend the day's energy side by side, and what every step is worth; null without a bank."""
    outlook = outlook_of(body.design)
    steady_m = steady_mps(outlook, solve_steady(outlook)) * outlook.hours * 3600.0
    return PaceOut(
        content_hash=content_hash(body.design), ways=ways_of(outlook), prices=prices_of(outlook, steady_m)
    )


@router.post("/day/climate", response=ClimateYear, operation_id="drawClimate")
def day_climate(request: HttpRequest, body: AskedClimate) -> Any:
    """The days that a place has, month by month."""
    return climate_year(body.site, body.date.year)


@router.post("/day/forecast", response=Forecast, operation_id="forecastDays")
def day_forecast(request: HttpRequest, body: AskedForecast) -> Any:
    """The days from a date on, by the forecast service that is set up."""
    return forecast_for(body.site, body.date, body.days)


@router.post("/day/forecast/read", response=Forecast, operation_id="readForecast")
def day_forecast_file(request: HttpRequest, body: ForecastFile) -> Any:
    """A forecast file in open JSON."""
    return read_forecast(body.text)


@router.post("/day/weather", response=ReadWeather, operation_id="readWeather")
def day_weather(request: HttpRequest, body: WeatherFile) -> Any:
    """Full-sun hours by month from a weather file."""
    return read_weather(body.text, body.latitude_deg)


@router.post("/hull/range", response=RangeOut, operation_id="drawRange")
def hull_range(request: HttpRequest, body: Asked) -> Any:
    return RangeOut(content_hash=content_hash(body.design), picture=range_picture(body.design))


@router.post("/hull/match", response=MatchOut, operation_id="drawMatch")
def hull_match(request: HttpRequest, body: Asked) -> Any:
    return MatchOut(content_hash=content_hash(body.design), picture=match_picture(body.design))


@router.post("/hull/helm-card", response=HelmOut, operation_id="drawHelmCard")
def helm_card(request: HttpRequest, body: AskedHelm) -> Any:
    return HelmOut(content_hash=content_hash(body.design), card=helm_picture(body.design, body.unit))


@router.post("/hull/helm-card.pdf", operation_id="printHelmCard")
def helm_card_file(request: HttpRequest, body: AskedHelm) -> HttpResponse:
    """The helm card as a one-page PDF."""
    content = helm_card_pdf(helm_picture(body.design, body.unit), body.unit)
    return HttpResponse(content, content_type="application/pdf")


@router.post("/hull/runs/read", response=ReadRuns, operation_id="readRuns")
def paste_runs(request: HttpRequest, body: PastedRuns) -> Any:
    return read_runs(body.text, body.unit, body.taken_ids)


@router.post("/hull/runs.csv", operation_id="writeRuns")
def runs_file(request: HttpRequest, body: AskedHelm) -> HttpResponse:
    """The measured runs as CSV."""
    return HttpResponse(written_runs(body.design.runs, body.unit), content_type="text/csv; charset=utf-8")


@router.post("/bank/picture", response=BankOut, operation_id="drawBank")
def bank(request: HttpRequest, body: AskedBank) -> Any:
    return BankOut(content_hash=content_hash(body.design), picture=bank_picture(body.design, body.ask))


@router.post("/array/picture", response=ArrayOut, operation_id="drawArray")
def array(request: HttpRequest, body: AskedArray) -> Any:
    picture = array_picture(body.design, body.group_id, body.number, body.draft)
    return ArrayOut(content_hash=content_hash(body.design), picture=picture)


@router.post("/array/advice", response=ArrayAdviceOut, operation_id="adviseArray")
def array_findings(request: HttpRequest, body: Asked) -> Any:
    """What the array tells: it takes longer than its picture."""
    return ArrayAdviceOut(content_hash=content_hash(body.design), advice=array_advice(body.design))


@router.post("/array/tilt", response=TiltOut, operation_id="adviseTilt")
def array_tilt(request: HttpRequest, body: Asked) -> Any:
    advice = tilt_advice(outlook_of(body.design))
    return TiltOut(content_hash=content_hash(body.design), advice=advice)


@router.post("/array/burden", response=BurdenOut, operation_id="weighArray")
def array_burden(request: HttpRequest, body: Asked) -> Any:
    """What the array costs the boat."""
    return BurdenOut(content_hash=content_hash(body.design), burden=burden(outlook_of(body.design)))


@router.post("/array/next", response=NextPanelsOut, operation_id="findNextPanels")
def array_next(request: HttpRequest, body: Asked) -> Any:
    """The next best place and panel."""
    return NextPanelsOut(content_hash=content_hash(body.design), panels=next_panels(outlook_of(body.design)))


@router.post("/array/year", response=YearOut, operation_id="harvestYear")
def array_year(request: HttpRequest, body: Asked) -> Any:
    """The array month by month."""
    return YearOut(content_hash=content_hash(body.design), year=through_year(body.design))


@router.post("/array/modules", response=ReadModules, operation_id="readModules")
def array_modules(request: HttpRequest, body: ModuleTable) -> Any:
    return read_modules(body.text, body.search)


@router.get("/panel-models", response=list[PanelModel], operation_id="listPanelModels")
def list_panel_models(request: HttpRequest) -> Any:
    return list(panel_models())


@router.post("/strings/picture", response=StringsOut, operation_id="drawStrings")
def strings(request: HttpRequest, body: Asked) -> Any:
    """The voltage ladder and the one-line diagram."""
    return StringsOut(content_hash=content_hash(body.design), picture=strings_picture(body.design))


@router.post("/strings/wiring.pdf", operation_id="printWiring")
def wiring_file(request: HttpRequest, body: Asked) -> HttpResponse:
    """Diagram, cables, settings and parts as a PDF."""
    content = wiring_pdf(strings_picture(body.design), body.design.name)
    return HttpResponse(content, content_type="application/pdf")


@router.post("/strings/parts.csv", operation_id="writeParts")
def parts_file(request: HttpRequest, body: Asked) -> HttpResponse:
    """The wiring's parts as CSV."""
    content = written_parts(parts_of(wiring_of(body.design)))
    return HttpResponse(content, content_type="text/csv; charset=utf-8")


@router.post("/strings/controllers", response=ReadControllers, operation_id="readControllers")
def controller_table(request: HttpRequest, body: ControllerTable) -> Any:
    """Controllers of a table, to propose from."""
    return read_controllers(body.text)


@router.post("/strings/year", response=BoxesYearOut, operation_id="clipYear")
def strings_year(request: HttpRequest, body: Asked) -> Any:
    """What every controller passes and clips in a year."""
    return BoxesYearOut(content_hash=content_hash(body.design), year=boxes_through_year(body.design))


@router.post("/strings/first", response=FirstLegalOut, operation_id="findFirstWiring")
def strings_first(request: HttpRequest, body: Asked) -> Any:
    """A legal wiring by volts and amps alone, while the others are weighed."""
    design = body.design.changed(strings=())
    return FirstLegalOut(content_hash=content_hash(body.design), choices=first_legal(design))


@router.post("/warnings", response=WarningsOut, operation_id="countWarnings")
def warnings(request: HttpRequest, body: Asked) -> Any:
    """How many open warnings each station has, for the course line."""
    return WarningsOut(content_hash=content_hash(body.design), warnings=warning_counts(body.design))


@router.get("/controller-models", response=list[ControllerModel], operation_id="listControllerModels")
def list_controller_models(request: HttpRequest) -> Any:
    return list(controller_models())


@router.get("/load-presets", response=list[LoadPreset], operation_id="listLoadPresets")
def load_presets(request: HttpRequest) -> Any:
    return list(LOAD_PRESETS)


@router.get("/hull-types", response=list[HullTypeRow], operation_id="listHullTypes")
def hull_types(request: HttpRequest) -> Any:
    return [
        HullTypeRow(
            type=hull_type,
            label=typical.label,
            hulls=typical.hulls,
            efficiency=typical.efficiency,
            waterline_length_m=typical.length_m,
            beam_m=typical.beam_m,
            displacement_kg=typical.displacement_kg,
        )
        for hull_type, typical in TYPICAL.items()
    ]


@router.get("/places", response=list[Site], operation_id="listPlaces")
def list_places(request: HttpRequest) -> Any:
    return list(places())
