"""Django's test runner with a closing line that counts."""

import shutil

from django.conf import settings
from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Ends with `N passed, N failed, N skipped` and removes the tests' folder."""

    def suite_result(self, suite, result, **kwargs):
        faults = [*(test for test, _ in result.failures + result.errors), *result.unexpectedSuccesses]
        failed = len({str(getattr(test, "test_case", test)) for test in faults})  # a test with many cases fails once
        skipped = len(result.skipped)
        self.counts = (max(result.testsRun - failed - skipped, 0), failed, skipped)
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, *args, **kwargs):
        try:
            return super().run_tests(*args, **kwargs)
        finally:
            shutil.rmtree(settings.DIMGREY_DATA, ignore_errors=True)
            passed, failed, skipped = getattr(self, "counts", (0, 1, 0))
            print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
