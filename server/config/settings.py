"""Django settings: one person, no login, loopback only."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from config.secret import secret_kept_in

ROOT = Path(__file__).resolve().parents[2]
WEB_DIST = ROOT / "web" / "dist"
VAR = Path(os.environ.get("PARHELION_VAR", ROOT / "var"))
VAR.mkdir(parents=True, exist_ok=True)

TESTING = "test" in sys.argv

SECRET_KEY = os.environ.get("PARHELION_SECRET_KEY") or secret_kept_in(VAR)
DEBUG = False
ALLOWED_HOSTS = ["localhost", "127.0.0.1", "[::1]", *(["testserver"] if TESTING else [])]

INSTALLED_APPS = ["boats", "outings", "work", "stations"]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "config.middleware.DoorsMiddleware",
    "config.middleware.StaticFilesMiddleware",
    "config.middleware.SameOriginMiddleware",
    "django.middleware.common.CommonMiddleware",
]
ROOT_URLCONF = "config.urls"
TEMPLATES: list[dict[str, object]] = []
APPEND_SLASH = False

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "parhelion.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            # What was acknowledged survives a power cut: a third of a millisecond a save. A migration sets
            # the write-ahead log once, so that a full disk still lets connections read.
            "init_command": "PRAGMA synchronous=FULL;",
        },
        # In-memory SQLite loses writes under ASGI: the tests' database is a file too.
        "TEST": {"NAME": VAR / "test.sqlite3"},
    }
}
TEST_RUNNER = "config.test_runner.Runner"
# A forecast service that answers in open JSON; without one the simulated stand-in does.
FORECAST_ADDRESS = os.environ.get("PARHELION_FORECAST", "")
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "/static/"
STATIC_ROOT = VAR / "static"
STATIC_ROOT.mkdir(parents=True, exist_ok=True)
if WEB_DIST.is_dir():
    WHITENOISE_ROOT = WEB_DIST
WHITENOISE_INDEX_FILE = True
# Vite puts a hash into the name of everything under assets/.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\.\w+$"

DATA_UPLOAD_MAX_MEMORY_SIZE = 8_000_000  # a year of weather; designs have a limit of their own
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {"django.request": {"handlers": ["console"], "level": "ERROR", "propagate": False}},
}
