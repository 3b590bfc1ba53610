"""Django's runner, ending with a count that a person and a machine can read."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.test.runner import DiscoverRunner, ParallelTestSuite

AT_ONCE = "django_tasks.backends.immediate.ImmediateBackend"  # What workers would do.


class QuickArgon2(Argon2PasswordHasher):
    """What the application keeps passwords with, without the work that makes guessing slow."""

    time_cost, memory_cost, parallelism = 1, 64, 1


class LongestFirst(ParallelTestSuite):
    """What a browser does takes longest: begun first, nobody waits for the last of it."""

    def __init__(self, subsuites: list[Any], *args: Any, **kwargs: Any) -> None:
        ordered = sorted(subsuites, key=lambda one: ".browser." not in next(iter(one)).id())
        super().__init__(ordered, *args, **kwargs)


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed` as its last line."""

    parallel_test_suite = LongestFirst

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        settings.TASKS = {"default": {"BACKEND": AT_ONCE}}
        settings.PASSWORD_HASHERS = [f"{__name__}.{QuickArgon2.__name__}"]

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        self.counted = (result.testsRun - failed - len(result.skipped), failed)
        return int(super().suite_result(suite, result, **kwargs))

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        outcome = super().run_tests(*args, **kwargs)
        passed, failed = getattr(self, "counted", (0, 0))
        print(f"{passed} passed, {failed} failed", flush=True)  # noqa: T201
        return outcome
