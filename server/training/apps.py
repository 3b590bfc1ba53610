from django.apps import AppConfig


class TrainingConfig(AppConfig):
    name = "server.training"
    label = "training"
