from django.apps import AppConfig


class ShopsConfig(AppConfig):
    name = "server.shops"
