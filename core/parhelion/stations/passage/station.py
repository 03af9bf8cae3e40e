"""What the Passage registers."""

from __future__ import annotations

from parhelion.stations.passage.findings import passage_findings
from parhelion.stations.passage.picture import passage_picture, ways_shown
from parhelion.stations.passage.sure import sure
from parhelion.stations.passage.terminal import passage
from parhelion.stations.passage.usual import passage_usual
from parhelion.stations.station import Station, Study, Verb

STATION = Station(
    name="passage",
    title="Passage",
    findings=passage_findings,
    usual=passage_usual,
    studies=(
        Study("picture", passage_picture),
        Study("ways", ways_shown, at_rest=True),
        Study("sure", sure, at_rest=True),
    ),
    verbs=(Verb("passage", passage),),
)
