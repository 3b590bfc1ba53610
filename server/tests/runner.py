"""Django's runner, ending with a count that a person and a machine can read."""

from __future__ import annotations

from typing import Any

from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed` as its last line."""

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        self.counted = (result.testsRun - failed - len(result.skipped), failed)
        return int(super().suite_result(suite, result, **kwargs))

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        outcome = super().run_tests(*args, **kwargs)
        passed, failed = getattr(self, "counted", (0, 0))
        print(f"{passed} passed, {failed} failed", flush=True)  # noqa: T201
        return outcome
