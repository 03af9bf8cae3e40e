"""What the Day registers."""

from __future__ import annotations

from parhelion.stations.day.accounts import written_accounts
from parhelion.stations.day.findings import day_findings
from parhelion.stations.day.picture import day_picture
from parhelion.stations.day.terminal import day, pace
from parhelion.stations.day.usual import day_usual
from parhelion.stations.day.ways import pace_of
from parhelion.stations.station import Paper, Station, Study, Verb

STATION = Station(
    name="day",
    title="Day",
    findings=day_findings,
    usual=day_usual,
    studies=(Study("picture", day_picture), Study("pace", pace_of, at_rest=True)),
    papers=(Paper("accounts.csv", written_accounts),),
    verbs=(Verb("day", day), Verb("pace", pace)),
)
