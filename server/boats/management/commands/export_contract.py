"""Writes the API's OpenAPI and the design's JSON Schema to the files made from them."""

from __future__ import annotations

import json
from typing import Any

from config.api import api
from django.conf import settings
from django.core.management.base import BaseCommand
from parhelion.formats.boat_file import json_schema


class Command(BaseCommand):
    help = "Writes web/openapi.json and docs/boat-design.schema.json."

    def handle(self, *args: Any, **options: Any) -> None:
        targets = {
            "web/openapi.json": api.get_openapi_schema(path_prefix="/api/"),
            "docs/boat-design.schema.json": json_schema(),
        }
        for name, content in targets.items():
            text = json.dumps(content, indent=2, ensure_ascii=False) + "\n"
            (settings.ROOT / name).write_text(text, encoding="utf-8")
