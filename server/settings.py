"""Settings, all of them from the environment; nothing is kept in a process."""

from __future__ import annotations

import os
from pathlib import Path

import dj_database_url
from csp.constants import NONCE, NONE, SELF

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
CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.db.DatabaseCache",
        "LOCATION": "shared_cache",
    }
}

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "django.contrib.postgres",
    "csp",
    "rest_framework",
    "drf_spectacular",
    "server.shops",
    "server.engines",
    "server.inspections",
    "server.photos",
    "server.reports",
    "server.demo",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
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
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
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

STATIC_URL = "/static/"
STATIC_ROOT = ROOT / "server" / "static_built"
REPORT_FONTS = ROOT / "server" / "reports" / "fonts"
STATICFILES_DIRS = [
    ("report-fonts", REPORT_FONTS),
    *([BUILT_FRONT] if BUILT_FRONT.exists() else []),
]
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
MEDIA_ROOT = os.environ.get("MEDIA_ROOT", str(ROOT / ".local" / "media"))

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["server.api.access.Session"],
    "DEFAULT_PERMISSION_CLASSES": ["server.api.access.ReadersReadWritersWrite"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["rest_framework.parsers.JSONParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "server.api.errors.handle",
    "DEFAULT_THROTTLE_RATES": {"log-in": os.environ.get("LOG_IN_RATE", "10/min")},
    "NUM_PROXIES": int(os.environ.get("NUM_PROXIES", "0")),
    "UNAUTHENTICATED_USER": None,
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Fiacre",
    "VERSION": "1",
    "OAS_VERSION": "3.1.0",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
}
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
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"django.request": {"level": "ERROR"}},
}
