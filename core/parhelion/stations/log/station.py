"""What the Log registers."""

from __future__ import annotations

from parhelion.stations.log.brought import brought_readings, said
from parhelion.stations.log.cases import CalibrateCase, MetersCase, TiltCase
from parhelion.stations.log.compare import log_meters
from parhelion.stations.log.findings import log_findings
from parhelion.stations.log.meaning import log_meaning
from parhelion.stations.log.now import log_now
from parhelion.stations.log.paper import outings_csv, readings_csv
from parhelion.stations.log.picture import log_picture
from parhelion.stations.log.season import log_season
from parhelion.stations.log.season_pdf import season_pdf
from parhelion.stations.log.terminal import (
    calibrate,
    compare_meters,
    diagnose,
    diagnose_arguments,
    log,
    log_arguments,
    tilt,
)
from parhelion.stations.station import Paper, Reader, Station, Study, Verb, always

STATION = Station(
    name="log",
    title="Log",
    findings=log_findings,
    studies=(
        Study("picture", log_picture),
        Study("now", log_now),
        Study("meaning", log_meaning, at_rest=True),
        Study("season", log_season),
        Study("meters", log_meters, at_rest=True),
    ),
    readers=(Reader("said", said), Reader("readings/read", brought_readings)),
    papers=(
        Paper("readings.csv", readings_csv),
        Paper("outings.csv", outings_csv),
        Paper("season.pdf", season_pdf, "application/pdf"),
    ),
    verbs=(
        Verb("log", log, log_arguments),
        Verb("diagnose", diagnose, diagnose_arguments, table="a day's readings, CSV"),
        Verb("compare-meters", compare_meters, case=MetersCase),
        Verb("calibrate", calibrate, case=CalibrateCase),
        Verb("tilt", tilt, case=TiltCase),
    ),
    told_at_rest=always,
)
