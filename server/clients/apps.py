from django.apps import AppConfig


class ClientsConfig(AppConfig):
    name = "server.clients"
    label = "clients"
