from django.apps import AppConfig


class ArchiveConfig(AppConfig):
    """Everything a shop has, out and in again."""

    name = "server.archive"
