"""Settings. What differs between machines is read from the environment, here at the top and nowhere else."""

import logging
import os
from pathlib import Path

from csp.constants import NONCE
from django.core.exceptions import ImproperlyConfigured
from psycopg_pool.base import AttemptWithBackoff


def _secret(name: str) -> str:
    """What the file holds that `NAME_FILE` names, else the variable itself: what stands in a file is not seen
    with the processes, nor in what they leave behind."""
    path = os.environ.get(f"{name}_FILE", "")
    if not path:
        return os.environ.get(name, "")
    try:
        return Path(path).read_text(encoding="utf-8").strip()
    except (OSError, UnicodeDecodeError) as error:
        raise ImproperlyConfigured(f"{name}_FILE: {path} cannot be read: {error}.") from None


def _number(name: str, usual: float) -> float:
    """What a variable says as a number above nothing."""
    said = os.environ.get(name, "")
    try:
        found = float(said) if said else usual
    except ValueError:
        found = 0.0
    if not 0 < found < float("inf"):
        raise ImproperlyConfigured(f"{name} must be a number above 0, not “{said}”.")
    return found


DB_HOST = os.environ.get("OLDSPOON_DB_HOST", "127.0.0.1")
DB_PORT = os.environ.get("OLDSPOON_DB_PORT", "5432")
DB_DIRECT_HOST = os.environ.get("OLDSPOON_DB_DIRECT_HOST", DB_HOST)
DB_DIRECT_PORT = os.environ.get("OLDSPOON_DB_DIRECT_PORT", DB_PORT)
"""The database itself, where the two above are a pooler's."""
DB_USER = os.environ.get("OLDSPOON_DB_USER", "oldspoon")
DB_PASSWORD = _secret("OLDSPOON_DB_PASSWORD")
DB_NAME = os.environ.get("OLDSPOON_DB_NAME", "oldspoon")
DB_SERVING = os.environ.get("OLDSPOON_DB_SERVING", "")
"""The role that serves: `prepare`, run as the tables' owner, gives it what it needs."""
SECRET_KEY = _secret("OLDSPOON_SECRET_KEY")
_HOSTS = os.environ.get("OLDSPOON_HOSTS", "")
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]", *filter(None, map(str.strip, _HOSTS.split(",")))]
LOGS = os.environ.get("OLDSPOON_LOGS", "plain")
"""How it logs: "plain" for people, and only what is wrong; "json", a line for every request, for machines."""
METRICS_TOKEN = _secret("OLDSPOON_METRICS_TOKEN")
"""Whoever sends it may read /metrics; empty, nobody may."""
WEB_MB = _number("OLDSPOON_WEB_MB", 700)
"""A web process that holds more when it has nothing to do gives way to a fresh one. It begins with some
250 MB, and the bands and maps it keeps make it 400; an estimate of what is more than that."""
HTTPS = os.environ.get("OLDSPOON_HTTPS", "") == "1"

BASE_DIR = Path(__file__).resolve().parents[1]
WEB_DIST = BASE_DIR.parent / "web" / "dist"
_OWN = Path(os.environ.get("OLDSPOON_DATA", BASE_DIR.parent / "var" / "served"))
"""The one folder that is written to."""
BACKUPS = Path(os.environ.get("OLDSPOON_BACKUPS", _OWN / "backups"))
FILES = _OWN / "files"
ARCHIVES = _OWN / "archives"
"""Archives on their way, in or out; they are in no backup."""
if not SECRET_KEY:
    raise ImproperlyConfigured("OLDSPOON_SECRET_KEY is missing or empty; ./spoon start makes one by itself.")

DEBUG = False
ROOT_URLCONF = "oldspoon.urls"
ASGI_APPLICATION = "oldspoon.asgi.application"
AUTH_USER_MODEL = "people.User"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "csp",
    "procrastinate.contrib.django",
    "pgtrigger",
    "ninja",
    "records",
    "people",
    "kitchen",
    "book",
    "devices",
    "papers",
    "stove",
    "photos",
    "shelf",
    "trouble",
    "day",
    "practice",
    "log",
    "archive",
    "oldspoon",
]

MIDDLEWARE = [
    "oldspoon.request_log.RequestLog",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "oldspoon.problems.OneShape",
    "people.known.Remembered",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]

TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]

# A pool that lost its database asks for it every third of a second, not after ever longer rests: there is
# no other way to tell it so.
AttemptWithBackoff.INITIAL_DELAY, AttemptWithBackoff.DELAY_BACKOFF = 0.3, 1.0

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": DB_HOST,
        "PORT": DB_PORT,
        "USER": DB_USER,
        "PASSWORD": DB_PASSWORD,
        "NAME": DB_NAME,
        # A connection that the database dropped is noticed when it is taken from the pool, not when it fails.
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"pool": {"min_size": 1, "max_size": 12, "timeout": 4}},
    }
}

PASSWORD_HASHERS = ["people.hashers.SmallArgon2"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "people.published.NotPublished"},
]
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]

# It counts wrong passwords by name and device (`people.known`) and forgets them after a day; how long one
# waits for them is said in `people.guessing`, how many may come from one address in `people.actions`.
AXES_LOCK_OUT_AT_FAILURE = False
AXES_COOLOFF_TIME = 24.0
AXES_LOCKOUT_PARAMETERS = [["username", "user_agent"]]
AXES_CLIENT_IP_CALLABLE = "people.actions.address_of"
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
# The log-in route answers a lock-out itself, in the API's one error shape: axes' middleware is not used.
# It counts by address itself, too.
# Whether browsers ship with this address in their list of HTTPS-only ones is for its owner to ask for (W021).
SILENCED_SYSTEM_CHECKS = ["axes.W002", "axes.W006", "security.W021"]

SESSION_COOKIE_AGE = 14 * 24 * 3600
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = HTTPS
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SECURE = HTTPS
CSRF_FAILURE_VIEW = "oldspoon.problems.csrf_failure"
SECURE_SSL_REDIRECT = HTTPS
# A supervisor on this machine asks without HTTPS how we are.
SECURE_REDIRECT_EXEMPT = [r"^health/"]
SECURE_HSTS_SECONDS = 31536000 if HTTPS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = HTTPS
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"

# No inline script at all, and no inline style but those with this page's nonce: the dialogs' scroll lock
# writes one.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        "script-src": ["'self'"],
        "style-src": ["'self'", NONCE],
        "img-src": ["'self'", "data:"],
        "font-src": ["'self'"],
        "connect-src": ["'self'"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
    }
}

STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.exists() else None
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\.\w+$"

DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000


def _is_ours(record: logging.LogRecord) -> bool:
    return getattr(record, "status_code", 500) != 503


LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    # That something is away or busy is answered, and no mistake of ours.
    "filters": {
        "ours": {"()": "django.utils.log.CallbackFilter", "callback": _is_ours},
        "once": {"()": "oldspoon.quiet.OncePerMinute"},
    },
    "formatters": {
        "plain": {"format": "{asctime} {levelname} {name}: {message}", "style": "{"},
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "{asctime}{levelname}{name}{message}",
            "style": "{",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "from", "message": "said"},
        },
    },
    "handlers": {
        "console": {"class": "logging.StreamHandler", "formatter": LOGS},
        "loops": {"class": "logging.StreamHandler", "formatter": LOGS, "filters": ["once"]},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {
        "oldspoon": {"level": "INFO" if LOGS == "json" else "WARNING"},
        "django.request": {"level": "ERROR", "filters": ["ours"]},
        "axes": {"level": "ERROR"},
        # What goes round and round says a thing once a minute.
        "psycopg.pool": {"level": "ERROR", "handlers": ["loops"], "propagate": False},
        "procrastinate": {"level": "WARNING", "handlers": ["loops"], "propagate": False},
        "oldspoon.follow": {"level": "WARNING", "handlers": ["loops"], "propagate": False},
        "oldspoon.loops": {"level": "WARNING", "handlers": ["loops"], "propagate": False},
        "health_check": {"level": "ERROR"},
        # It says of each font with weights of every kind that it takes one.
        "weasyprint": {"level": "ERROR"},
    },
}
