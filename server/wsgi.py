"""The application as gunicorn loads it."""

import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
application = get_wsgi_application()
# All that the views need is loaded before the first request, not by it.
assert get_resolver().url_patterns
