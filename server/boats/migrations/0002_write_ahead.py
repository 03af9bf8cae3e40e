"""The write-ahead log, set once: reading goes on while something is saved."""

from __future__ import annotations

from django.conf import settings
from django.db import migrations


def set_log(apps: object, schema_editor: object) -> None:
    """Says it to the database file, which remembers; a test's database keeps the plain journal."""
    if not settings.TESTING:
        with schema_editor.connection.cursor() as cursor:  # type: ignore[attr-defined]
            cursor.execute("PRAGMA journal_mode=WAL")


class Migration(migrations.Migration):
    """Cannot run within a transaction."""

    atomic = False
    dependencies = [("boats", "0001_initial")]
    operations = [migrations.RunPython(set_log, migrations.RunPython.noop)]
