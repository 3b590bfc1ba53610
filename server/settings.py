"""Settings, all of them from the environment; nothing is kept in a process."""

from __future__ import annotations

import os
from collections.abc import Mapping
from datetime import timedelta
from pathlib import Path
from typing import Any

import dj_database_url
from csp.constants import NONCE, NONE, SELF

from server.api.reporting import REPORTED

ROOT = Path(__file__).resolve().parent.parent
BUILT_FRONT = ROOT / "web" / "dist"

SECRET_KEY = os.environ.get("SECRET_KEY", "")
DEBUG = False
ALLOWED_HOSTS = os.environ.get("ALLOWED_HOSTS", "127.0.0.1,localhost").split(",")
SECURE = os.environ.get("HTTPS", "") == "1"

DATABASES = {
    "default": dj_database_url.parse(
        os.environ.get("DATABASE_URL", "postgresql://fiacre@127.0.0.1:5432/fiacre"),
        conn_max_age=60,
        conn_health_checks=True,
    )
}
# Nobody waits for ever: neither for an answer of the database nor for somebody else's lock.
PATIENCE = (
    f"-c statement_timeout={os.environ.get('STATEMENT_TIMEOUT_MS', '60000')} "
    f"-c lock_timeout={os.environ.get('LOCK_TIMEOUT_MS', '15000')}"
)
# Lists and archives may be read from a database that follows the first: see api/replica.py.
if replica := os.environ.get("REPLICA_URL"):
    DATABASES["replica"] = dj_database_url.parse(replica, conn_max_age=60, conn_health_checks=True)
    DATABASES["replica"]["TEST"] = {"MIRROR": "default"}
for database in DATABASES.values():
    database.setdefault("OPTIONS", {})["options"] = PATIENCE
DATABASE_ROUTERS = ["server.api.replica.Router"]
CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.db.DatabaseCache",
        "LOCATION": "shared_cache",
    }
}

# What nobody should wait for is done by workers (manage.py db_worker), which share the database.
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.staticfiles",
    "django.contrib.postgres",
    "csp",
    "axes",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "rest_framework",
    "drf_spectacular",
    "django_tasks",
    "django_tasks_db",
    "server.shops",
    "server.engines",
    "server.inspections",
    "server.photos",
    "server.reports",
    "server.archive",
    "server.training",
    "server.clients",
    "server.demo",
]
MIDDLEWARE = [
    "server.api.watching.Watched",
    "server.api.health.Probed",
    "server.api.versions.Versioned",
    "server.api.headers.Private",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "server.api.replica.Written",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "server.urls"
WSGI_APPLICATION = "server.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "server" / app / "templates" for app in ("front", "reports")],
        "OPTIONS": {"context_processors": ["csp.context_processors.nonce"]},
    }
]

AUTH_USER_MODEL = "shops.User"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
     "OPTIONS": {"user_attributes": ("email", "name")}},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
     "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]  # fmt: skip
PASSWORD_RESET_TIMEOUT = 3 * 24 * 3600  # Also of an invitation.
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",  # Slows down guessing, before anything is compared.
    "django.contrib.auth.backends.ModelBackend",
]
# Wrong passwords are counted for the address they come from and, where its person never came in
# from there, for the account; in a table of their own, which no amount of other requests empties.
AXES_FAILURE_LIMIT = int(os.environ.get("LOG_IN_TRIES", "15"))
AXES_COOLOFF_TIME = timedelta(minutes=10)
AXES_LOCKOUT_PARAMETERS = "server.shops.account_log.by_what_guesses_count"
AXES_USERNAME_FORM_FIELD = "username"  # As it is handed to authenticate().
AXES_CLIENT_IP_CALLABLE = "server.api.access.address_of"
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
SILENCED_SYSTEM_CHECKS = ["axes.W002"]  # Its middleware only words the refusal; SessionView does.
SESSION_ENGINE = "server.shops.sessions"
SESSION_COOKIE_AGE = 14 * 24 * 3600  # Ends so long after it was last used,
SESSION_ENDS_S = 90 * 24 * 3600  # and so long after it began, however much it is used.
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE
CSRF_FAILURE_VIEW = "server.api.errors.csrf_failure"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "connect-src": [SELF, "http://127.0.0.1:*"],  # Instruments on the same machine.
        "manifest-src": [SELF],
        "worker-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
if SECURE:
    SECURE_SSL_REDIRECT = True
    SECURE_REDIRECT_EXEMPT = [r"^healthz$", r"^readyz$"]
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    # A promise to every browser that cannot be taken back before it ends, for other names of the
    # same house as well: it is made only where somebody asks for it.
    SECURE_HSTS_SECONDS = int(os.environ.get("HSTS_DAYS", "0")) * 24 * 3600
    SECURE_HSTS_INCLUDE_SUBDOMAINS = os.environ.get("HSTS_SUBDOMAINS", "") == "1"
    SECURE_HSTS_PRELOAD = os.environ.get("HSTS_PRELOAD", "") == "1"
EMAIL_HOST = os.environ.get("EMAIL_HOST", "")  # Empty: no mail is sent, links are shown instead.
EMAIL_PORT = int(os.environ.get("EMAIL_PORT", "25"))
EMAIL_HOST_USER = os.environ.get("EMAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("EMAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("EMAIL_TLS", "") == "1"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = os.environ.get("EMAIL_FROM", "fiacre@localhost")

STATIC_URL = "/static/"
STATIC_ROOT = ROOT / "server" / "static_built"
REPORT_FONTS = ROOT / "server" / "reports" / "fonts"
STATICFILES_DIRS = [
    ("report-fonts", REPORT_FONTS),
    *([BUILT_FRONT] if BUILT_FRONT.exists() else []),
]


def bucket(given: Mapping[str, str]) -> dict[str, Any]:
    """A bucket of an object store that speaks the S3 protocol, as the environment names it."""
    from botocore.config import Config  # A fifth of a second, which only a bucket is worth.

    return {
        "BACKEND": "server.photos.storage.Bucket",
        "OPTIONS": {
            "bucket_name": given["S3_BUCKET"],
            "endpoint_url": given.get("S3_ENDPOINT") or None,
            "region_name": given.get("S3_REGION") or None,
            "access_key": given.get("S3_ACCESS_KEY") or None,
            "secret_key": given.get("S3_SECRET_KEY") or None,
            "client_config": Config(
                connect_timeout=5,
                read_timeout=20,
                retries={"total_max_attempts": 3, "mode": "standard"},
                s3={"addressing_style": given.get("S3_ADDRESSING", "path")},
            ),
        },
    }


STORAGES: dict[str, dict[str, Any]] = {
    "default": bucket(os.environ)
    if os.environ.get("S3_BUCKET")
    else {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {
        "BACKEND": "whitenoise.storage.CompressedStaticFilesStorage",
        # Built by one user and read by another; what is private is below.
        "OPTIONS": {"file_permissions_mode": 0o644, "directory_permissions_mode": 0o755},
    },
}
# Photos are for the application: other users of the machine do not read them.
FILE_UPLOAD_PERMISSIONS, FILE_UPLOAD_DIRECTORY_PERMISSIONS = 0o600, 0o700
MEDIA_ROOT = os.environ.get("MEDIA_ROOT", str(ROOT / ".local" / "media"))

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["server.api.access.Session", "server.api.access.Key"],
    "DEFAULT_THROTTLE_CLASSES": ["server.api.access.KeyThrottle"],
    "DEFAULT_THROTTLE_RATES": {"key": os.environ.get("KEY_RATE", "120/min")},
    "DEFAULT_PERMISSION_CLASSES": ["server.api.access.ReadersReadWritersWrite"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["server.api.parsers.Json"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "server.api.errors.handle",
    "NUM_PROXIES": int(os.environ.get("NUM_PROXIES", "0")),
    "UNAUTHENTICATED_USER": None,
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Fiacre",
    "VERSION": "1",
    "OAS_VERSION": "3.1.0",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "POSTPROCESSING_HOOKS": [
        "drf_spectacular.hooks.postprocess_schema_enums",
        "server.api.description.each_record_once",
    ],
    "ENUM_NAME_OVERRIDES": {
        "PressureKindEnum": ["dry", "wet"],
        "DueKindEnum": "server.inspections.due.DUE",
        "EventKindEnum": "server.inspections.over_time.EVENTS",
    },
}
if os.environ.get("SENTRY_DSN"):
    import sentry_sdk

    sentry_sdk.init(dsn=os.environ["SENTRY_DSN"], **REPORTED)
DATA_UPLOAD_MAX_MEMORY_SIZE = 6 * 1024 * 1024

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
USE_I18N = False
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
TEST_RUNNER = "server.tests.runner.CountingRunner"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request_id": {"()": "server.api.watching.WithRequestId"}},
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "fmt": "%(asctime)s %(levelname)s %(name)s %(request_id)s %(message)s",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "logger"},
        },
        "plain": {"format": "%(message)s"},
    },
    "handlers": {
        "console": {
            "class": "logging.StreamHandler",
            "filters": ["request_id"],
            "formatter": "json" if os.environ.get("LOG_FORMAT") == "json" else "plain",
        }
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {
        "django.request": {"level": "ERROR"},
        "axes": {"level": "ERROR"},
        "fiacre.access": {"level": "INFO" if os.environ.get("ACCESS_LOG") == "1" else "WARNING"},
    },
}
