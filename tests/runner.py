"""Django's test runner with its twenty slowest tests at the end, and a closing line that counts."""

import multiprocessing
import os
import shutil
import time
from pathlib import Path
from unittest import TextTestResult

from django.conf import settings
from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestResult, RemoteTestRunner, _init_worker

SLOWEST = 20


def start_worker(*args, **kwargs):
    """A process of a parallel run keeps its pictures in a folder of its own, as it keeps its database."""
    _init_worker(*args, **kwargs)
    settings.DIMGREY_DATA = Path(settings.DIMGREY_DATA) / f"worker-{os.getpid()}"
    # Pictures are decoded in processes of their own, which those of a pool may not start otherwise.
    multiprocessing.current_process()._config["daemon"] = False


class Timed:
    """Tells `addDuration` how many seconds each test took, as results of later versions of Python do."""

    def startTest(self, test):
        self._began = time.perf_counter()
        super().startTest(test)

    def stopTest(self, test):
        self.addDuration(test, time.perf_counter() - self._began)
        super().stopTest(test)


class RemoteResult(Timed, RemoteTestResult):
    def addDuration(self, test, elapsed):
        self.events.append(("addDuration", self.test_index, elapsed))


class Result(Timed, TextTestResult):
    """seconds: name of a test -> what it took. In a parallel run each is told twice: when it ran, and when it is shown here."""

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.seconds = {}

    def addDuration(self, test, elapsed):
        self.seconds[test.id()] = max(elapsed, self.seconds.get(test.id(), 0.0))


class RemoteRunner(RemoteTestRunner):
    resultclass = RemoteResult


class ParallelSuite(ParallelTestSuite):
    init_worker = start_worker
    runner_class = RemoteRunner


class CountingRunner(DiscoverRunner):
    """Ends with the slowest tests and `N passed, N failed, N skipped`, and removes the tests' folder."""

    parallel_test_suite = ParallelSuite
    counts, slowest = (0, 1, 0), ()

    def get_resultclass(self):
        return super().get_resultclass() or Result

    def suite_result(self, suite, result, **kwargs):
        faults = [*(test for test, _ in result.failures + result.errors), *result.unexpectedSuccesses]
        failed = len({str(getattr(test, "test_case", test)) for test in faults})  # a test with many cases fails once
        skipped = len(result.skipped)
        self.counts = (max(result.testsRun - failed - skipped, 0), failed, skipped)
        self.slowest = sorted(getattr(result, "seconds", {}).items(), key=lambda told: -told[1])[:SLOWEST]
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, *args, **kwargs):
        folder = settings.DIMGREY_DATA
        try:
            return super().run_tests(*args, **kwargs)
        finally:
            shutil.rmtree(folder, ignore_errors=True)
            for name, seconds in self.slowest:
                print(f"{seconds:6.1f} s  {name}")
            passed, failed, skipped = self.counts
            print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
