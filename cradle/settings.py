"""Settings. Everything a shop may want to change comes from the environment; the defaults serve one shop locally."""

import os
import sys
from contextlib import suppress
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured
from django.core.management.utils import get_random_secret_key
from platformdirs import user_data_path

from cradle.static_headers import page_keeper_headers
from layup.document import MOST_BYTES

BASE_DIR = Path(__file__).resolve().parent.parent
# Installed, the program keeps nothing beside itself: it may be replaced and removed, and the data stays.
INSTALLED = not (BASE_DIR / "manage.py").exists()
DATA_DIR = Path(
    os.environ.get("CRADLE_DATA_DIR") or (user_data_path("inch-cradle") if INSTALLED else BASE_DIR / "data")
)
# What is written here is its owner's alone: the shop's data, its copies, its key.
os.umask(0o077)
DATA_DIR.mkdir(parents=True, exist_ok=True)
with suppress(OSError):
    for kept in (DATA_DIR, *DATA_DIR.glob("**/cradle*")):
        kept.chmod(0o700 if kept.is_dir() else 0o600)


def _secret_key() -> str:
    """The signing key: from the environment, or made once and kept beside the data, readable by its owner alone."""
    if key := os.environ.get("CRADLE_SECRET_KEY"):
        return key
    kept = DATA_DIR / "secret_key"
    if not kept.exists():
        with os.fdopen(os.open(kept, os.O_WRONLY | os.O_CREAT, 0o600), "w") as file:
            file.write(get_random_secret_key())
    key = kept.read_text().strip()
    if len(key) < 30:
        raise ImproperlyConfigured(f"{kept} holds no key: delete it, and a new one is made; all have to sign in again")
    return key


SECRET_KEY = _secret_key()
DEBUG = os.environ.get("CRADLE_DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("CRADLE_HOSTS", "127.0.0.1,localhost").split(",")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "ninja",
    "cradle.shops",
    "cradle.shelf",
    "cradle.jobs",
    "cradle.bench",
    "cradle.stock",
    "cradle.instruments",
    "cradle.lan",
    "cradle.devices",
    "cradle.training",
    "cradle",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "cradle.faults.WhereMiddleware",
    "cradle.content_policy.ContentPolicyMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    # Files lie there compressed: what is unchanged has no body, and must not get one here.
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "cradle.devices.limits.TabletMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "cradle.urls"
ASGI_APPLICATION = "cradle.asgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]

# A plan on the screen does not wait for a table of the heat model; under test every figure is the final one.
UNDER_TEST = "test" in sys.argv[1:2]
HEAT_IN_BACKGROUND = not UNDER_TEST
# Plans, searches and tables are worked out in processes of their own where the server runs.
HEAVY_IN_PROCESSES = HEAT_IN_BACKGROUND
# Seconds that one such search may take, and one plan; a slow machine may be given more.
HEAVY_BUDGET_S = float(os.environ.get("CRADLE_HEAVY_BUDGET_S", "12"))
PLAN_BUDGET_S = 2 * HEAVY_BUDGET_S

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "cradle.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 10,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
    }
}
# How many of the copies made each day are kept.
BACKUPS_KEPT = int(os.environ.get("CRADLE_BACKUPS_KEPT", "14"))
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True

_PAGES = BASE_DIR / "cradle" / "pages" if INSTALLED else BASE_DIR / "web" / "dist"
WEB_DIST = Path(os.environ.get("CRADLE_PAGES", _PAGES))
STATIC_URL = "/static/"
GUIDE_PICTURES = BASE_DIR / "cradle" / "guide" / "pictures" if INSTALLED else BASE_DIR / "docs" / "screenshots"
_SERVED = ((WEB_DIST, WEB_DIST), (("guide", GUIDE_PICTURES), GUIDE_PICTURES))
STATICFILES_DIRS = [served for served, folder in _SERVED if folder.is_dir()]
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
# A file with a digest in its name never changes: a browser keeps it for a year.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[\w-]{8}\.\w+$"

# On the shop's own network the server speaks TLS itself; who may be asked for is found out there, and followed.
ON_THE_NETWORK = "shop" in sys.argv[1:2]
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json"}
WHITENOISE_ADD_HEADERS_FUNCTION = page_keeper_headers

# Behind a proxy that speaks HTTPS: CRADLE_HTTPS=1, and CRADLE_ORIGINS with the addresses people type.
HTTPS = os.environ.get("CRADLE_HTTPS") == "1"
# The addresses of proxies that may say for whom they ask, separated by commas.
PROXIES = [address for address in os.environ.get("CRADLE_PROXIES", "").split(",") if address]
CSRF_TRUSTED_ORIGINS = [origin for origin in os.environ.get("CRADLE_ORIGINS", "").split(",") if origin]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS else None
SECURE_SSL_REDIRECT = HTTPS
SECURE_HSTS_SECONDS = 31_536_000 if HTTPS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = HTTPS
SECURE_HSTS_PRELOAD = HTTPS
SESSION_COOKIE_SECURE = HTTPS or ON_THE_NETWORK
CSRF_COOKIE_SECURE = HTTPS or ON_THE_NETWORK
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
# A save sends two documents, each as large as a job file may be.
DATA_UPLOAD_MAX_MEMORY_SIZE = 2 * MOST_BYTES + 100_000

# Faults go to the terminal, and to a file of their own beside the data.
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"faults": {"()": "cradle.faults.FaultFormatter"}},
    "handlers": {
        "terminal": {"class": "logging.StreamHandler", "formatter": "faults"},
        "file": {
            "class": "logging.handlers.RotatingFileHandler",
            "filename": DATA_DIR / "faults.log",
            "maxBytes": 1_000_000,
            "backupCount": 3,
            "delay": True,
            "formatter": "faults",
        },
    },
    "loggers": {
        "cradle": {"handlers": [] if UNDER_TEST else ["terminal", "file"], "level": "WARNING", "propagate": UNDER_TEST},
        "django.request": {
            "handlers": [] if UNDER_TEST else ["terminal", "file"],
            "level": "ERROR",
            "propagate": False,
        },
    },
}
