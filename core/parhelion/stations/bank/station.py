"""What the Bank registers."""

from __future__ import annotations

from parhelion.stations.bank.findings import bank_findings
from parhelion.stations.bank.picture import bank_picture
from parhelion.stations.bank.terminal import bank, bank_arguments
from parhelion.stations.bank.usual import bank_usual
from parhelion.stations.station import Station, Study, Verb

STATION = Station(
    name="bank",
    title="Bank",
    findings=bank_findings,
    usual=bank_usual,
    studies=(Study("picture", bank_picture),),
    verbs=(Verb("bank", bank, bank_arguments),),
)
