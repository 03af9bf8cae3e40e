"""What the Fit-out registers."""

from __future__ import annotations

from parhelion.stations.fitout.cases import BenchCase, SunCase
from parhelion.stations.fitout.findings import fitout_findings
from parhelion.stations.fitout.noted_csv import records_csv
from parhelion.stations.fitout.paper import fitout_pdf, parts_csv
from parhelion.stations.fitout.picture import fitout_picture
from parhelion.stations.fitout.priced import priced
from parhelion.stations.fitout.terminal import bench_test, first_sun, fitout, fitout_arguments
from parhelion.stations.station import Paper, Reader, Station, Study, Verb

STATION = Station(
    name="fitout",
    title="Fit-out",
    findings=fitout_findings,
    studies=(Study("picture", fitout_picture),),
    papers=(
        Paper("parts.csv", parts_csv),
        Paper("records.csv", records_csv),
        Paper("fitout.pdf", fitout_pdf, "application/pdf", packed=2, title="Connecting, settings, parts"),
    ),
    readers=(Reader("prices", priced),),
    verbs=(
        Verb("fitout", fitout, fitout_arguments),
        Verb("bench-test", bench_test, case=BenchCase),
        Verb("first-sun", first_sun, case=SunCase),
    ),
)
