"""Django's test runner with a closing line that counts."""

import multiprocessing
import os
import shutil
from pathlib import Path

from django.conf import settings
from django.test.runner import DiscoverRunner, ParallelTestSuite, _init_worker


def start_worker(*args, **kwargs):
    """A process of a parallel run keeps its pictures in a folder of its own, as it keeps its database."""
    _init_worker(*args, **kwargs)
    settings.DIMGREY_DATA = Path(settings.DIMGREY_DATA) / f"worker-{os.getpid()}"
    # Pictures are decoded in processes of their own, which those of a pool may not start otherwise.
    multiprocessing.current_process()._config["daemon"] = False


class ParallelSuite(ParallelTestSuite):
    init_worker = start_worker


class CountingRunner(DiscoverRunner):
    """Ends with `N passed, N failed, N skipped` and removes the tests' folder."""

    parallel_test_suite = ParallelSuite

    def suite_result(self, suite, result, **kwargs):
        faults = [*(test for test, _ in result.failures + result.errors), *result.unexpectedSuccesses]
        failed = len({str(getattr(test, "test_case", test)) for test in faults})  # a test with many cases fails once
        skipped = len(result.skipped)
        self.counts = (max(result.testsRun - failed - skipped, 0), failed, skipped)
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, *args, **kwargs):
        folder = settings.DIMGREY_DATA
        try:
            return super().run_tests(*args, **kwargs)
        finally:
            shutil.rmtree(folder, ignore_errors=True)
            passed, failed, skipped = getattr(self, "counts", (0, 1, 0))
            print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
