"""Chromium for tests: Playwright lives on a thread of its own, so that the ORM stays usable in the test's thread.

One browser per process, a new context per test. A Remote wraps a Playwright object and runs its calls over there.
"""

import os
import queue
import threading
from concurrent.futures import Future

from tests.browser.patience import patience

STARTS_S, MOST_SECONDS = 60, 90
SHELL, CHROMIUM = (
    "/usr/lib/chromium/chromium-headless-shell",
    "/usr/bin/chromium",
)  # the first is the lighter; either will do
ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip


class Driver:
    """Runs functions on the thread that owns the browser and hands back their results."""

    def __init__(self):
        self.calls = queue.Queue()
        self.pid = os.getpid()
        self._painting = None
        ready = Future()
        threading.Thread(target=self._serve, args=(ready,), daemon=True).start()
        self.browser = ready.result(timeout=patience.seconds(STARTS_S))

    def _serve(self, ready):
        from playwright.sync_api import Error, sync_playwright

        with sync_playwright() as playwright:
            self.launch = lambda extra: playwright.chromium.launch(
                executable_path=SHELL if os.path.exists(SHELL) else CHROMIUM, args=[*ARGUMENTS, *extra]
            )
            ready.set_result(self.launch(["--disable-3d-apis"]))
            while True:
                function, future = self.calls.get()
                try:
                    future.set_result(function())
                except Error as failed:
                    # Playwright's own errors do not pass from one test process to another, and would take all other results along.
                    future.set_exception(AssertionError(f"{type(failed).__name__}: {failed}"))
                except BaseException as failed:
                    future.set_exception(failed)

    def painting(self):
        """A browser with WebGL, played by the processor: slow, so only what needs it asks for it. To be called over there."""
        if self._painting is None:
            self._painting = self.launch([])
        return self._painting

    def run(self, function):
        future = Future()
        self.calls.put((function, future))
        try:
            return future.result(timeout=MOST_SECONDS * patience.busy)
        except TimeoutError:
            self.pid = 0  # a browser that hangs fails one test; the next one gets a new browser
            raise


_driver = None


def driver():
    """The driver of this process; a forked test process starts its own."""
    global _driver
    if _driver is None or _driver.pid != os.getpid():
        _driver = Driver()
    return _driver
