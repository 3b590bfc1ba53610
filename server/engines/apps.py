from django.apps import AppConfig


class EnginesConfig(AppConfig):
    name = "server.engines"
