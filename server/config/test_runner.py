"""Django's test runner with hypothesis made repeatable."""

from __future__ import annotations

import gc

from django.test.runner import DiscoverRunner
from serve import ROUNDS


class Runner(DiscoverRunner):
    """The one runner of core, server and browser tests."""

    def setup_test_environment(self, **kwargs: object) -> None:
        from hypothesis import HealthCheck, settings

        super().setup_test_environment(**kwargs)
        settings.register_profile(
            "repeatable", derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow]
        )  # a busy machine is no fault
        settings.load_profile("repeatable")
        gc.freeze()
        gc.set_threshold(*ROUNDS)
