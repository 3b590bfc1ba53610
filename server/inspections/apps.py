from django.apps import AppConfig


class InspectionsConfig(AppConfig):
    name = "server.inspections"
