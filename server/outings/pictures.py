"""Pictures of what broke: made small, without what a camera writes into them, kept beside the database."""

from __future__ import annotations

import io
import uuid
from pathlib import Path

from boats.models import Boat
from django.conf import settings
from parhelion.errors import ParhelionError, Problem
from PIL import Image, ImageOps

from outings.models import Outing, Picture

MOST_SIDE, QUALITY = 1_600, 82
MOST_PIXELS = 60_000_000  # of what is sent
MOST_PICTURES = 12  # of an outing
KINDS = ("JPEG", "PNG", "WEBP", "GIF")
ACCEPTED = "a picture as JPEG, PNG, WebP or GIF, of 8 MB or less"


def _refused(code: str, message: str, accepted: str = ACCEPTED) -> ParhelionError:
    return ParhelionError([Problem(code=code, message=message, accepted=accepted)])


def path_of(picture: Picture) -> Path:
    """Where its file lies."""
    return Path(settings.VAR) / "pictures" / picture.boat_id.hex / f"{picture.key}.jpg"


def keep(boat: Boat, outing: str, content: bytes) -> Picture:
    """Keep a picture of an outing.

    Parameters
    ----------
    boat : Boat
    outing : str
        Of her outing.
    content : bytes
        As the camera made it.

    Raises
    ------
    ParhelionError
        Where it is no picture, there are enough, or there is no such outing.
    """
    if not Outing.objects.filter(boat=boat, key=outing, withdrawn_at=None).exists():
        raise _refused("no_outing", "There is no such outing.", "an outing of this boat")
    if Picture.objects.filter(boat=boat, outing_key=outing, withdrawn_at=None).count() >= MOST_PICTURES:
        raise _refused("too_many", "These are enough for one outing.", f"{MOST_PICTURES} or fewer")
    small = _small(content)
    picture = Picture(
        boat=boat, key=uuid.uuid4().hex, outing_key=outing, width=small.width, height=small.height
    )
    path = path_of(picture)
    path.parent.mkdir(parents=True, exist_ok=True)
    small.save(path, "JPEG", quality=QUALITY)
    picture.save()
    return picture


def _small(content: bytes) -> Image.Image:
    """Upright, no larger than is looked at, its colours alone."""
    try:
        with Image.open(io.BytesIO(content), formats=KINDS) as sent:
            if sent.width * sent.height > MOST_PIXELS:
                raise _refused("too_large", "This picture has too many points.", "60 million or fewer")
            upright = ImageOps.exif_transpose(sent).convert("RGB")
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise _refused("no_picture", "This is no picture that can be read.") from error
    upright.thumbnail((MOST_SIDE, MOST_SIDE))
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)  # nothing of the camera's notes, such as where it was
    return clean
