"""Old seconds of devices are put together to minutes, so that seasons of them stay small and quick.

What a person noted, said of the sky or left out stands as it was; the outing says since that its readings are
means. A file of the logbook saved before has the seconds.
"""

from __future__ import annotations

import logging
import time
from datetime import datetime, timedelta

from django.db import close_old_connections, transaction
from django.db.models import Count, Q
from django.utils import timezone
from parhelion.design.logbook import BY_HAND, MEANS_S, SECONDS_KEPT_DAYS

from outings.actions import WHOLE_ROWS, means_of, put_readings
from outings.models import Outing, Reading

EVERY_S = 6 * 3600.0
OF_DEVICES = ~Q(source=BY_HAND) & Q(note="", sky=None, left_out=False)
OF_DEVICES_ROWS = f"source <> '{BY_HAND}' and note = '' and sky is null and not left_out"


@transaction.atomic
def put_together(outing: Outing) -> tuple[int, int]:
    """What devices read on an outing as means of a minute.

    Returns
    -------
    tuple of int
        Their readings before and after.
    """
    mine = Reading.objects.filter(OF_DEVICES, boat_id=outing.boat_id, outing_key=outing.key)
    means = means_of(outing.boat_id, outing.key, MEANS_S, OF_DEVICES_ROWS, f"min-{outing.pk}")
    before, _ = mine.delete()
    outing.refresh_from_db(fields=["content"])  # what a person noted meanwhile stays
    outing.content = {**outing.content, "means_s": MEANS_S}
    outing.save(update_fields=["content"])
    if means:
        put_readings(outing.boat, means)
    return before, len(means)


def old_ones(now: datetime) -> list[Outing]:
    """Outings that began longer ago than seconds are kept, and have too many readings for a picture."""
    old = Outing.objects.filter(began_at__lt=now - timedelta(days=SECONDS_KEPT_DAYS))
    many = (
        Reading.objects.filter(OF_DEVICES, outing_key__in=old.values("key"))
        .values("boat_id", "outing_key").annotate(rows=Count("id")).filter(rows__gt=WHOLE_ROWS)
    )  # fmt: skip
    keys = {(row["boat_id"], row["outing_key"]) for row in many}
    return [one for one in old if (one.boat_id, one.key) in keys and one.content.get("means_s") is None]


def keep_minutes() -> None:
    """Goes through the old outings now and again, for as long as the program runs."""
    while True:
        try:
            for outing in old_ones(timezone.now()):
                before, after = put_together(outing)
                logging.getLogger(__name__).info("outing %s: %s readings to %s", outing.key, before, after)
        except Exception:  # a full disk now is tried again later
            logging.getLogger(__name__).exception("old seconds stay as they are")
        close_old_connections()
        time.sleep(EVERY_S)
