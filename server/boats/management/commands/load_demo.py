"""Adds the demo boats that are not there yet."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from outings.actions import take_in as take_in_logbook
from parhelion.formats.boat_file import read_boat

from boats.actions import add_boat, design_of
from boats.models import Variant
from boats.noted import take_in

DEMO_FILES = ("whimbrel.json", "grebe.json", "sabine.json", "fulmar.json")


class Command(BaseCommand):
    help = "Adds the demo boats that are not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        known = {design_of(item).name for item in Variant.objects.filter(is_working=True)}
        for name in DEMO_FILES:
            design = read_boat((settings.ROOT / "demo" / name).read_bytes())
            if design.name not in known:
                boat = add_boat(design)
                noted = settings.ROOT / "demo" / name.replace(".json", ".records.json")
                if noted.exists():
                    take_in(boat, noted.read_bytes())
                logbook = settings.ROOT / "demo" / name.replace(".json", ".logbook.json")
                if logbook.exists():
                    take_in_logbook(boat, logbook.read_bytes())
                self.stdout.write(f"added {design.name}")
