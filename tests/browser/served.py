"""Servers as the recipes start them, in processes of their own, for tests that meet them from outside."""

import contextlib
import os
import signal
import socket
import subprocess
import time
import urllib.request

from dimgrey.site.config import ROOT
from tests.browser.patience import patience

STARTS_S = 120


def free_port(address="127.0.0.1"):
    """A port that nobody listens on."""
    with socket.socket() as asked:
        asked.bind((address, 0))
        return str(asked.getsockname()[1])


def own_environment(**more):
    """The environment without what this process was told of Dimgrey and Django."""
    kept = {key: value for key, value in os.environ.items() if not key.startswith(("DIMGREY_", "DJANGO_"))}
    return {**kept, **more}


class Served:
    """A test case with `self.env` and `self.log`, a Path."""

    def start(self, command):
        """Start a command that goes on until the test ends."""
        out = self.log.open("a")
        running = subprocess.Popen(command, cwd=ROOT, env=self.env, stdout=out, stderr=out, start_new_session=True)

        def stop():
            with contextlib.suppress(ProcessLookupError):
                os.killpg(running.pid, signal.SIGTERM)
            running.wait(timeout=patience.seconds(20))
            out.close()

        self.addCleanup(stop)
        return running

    def answers(self, address, **headers):
        """Wait until an address answers. Returns the status."""
        end = time.monotonic() + patience.seconds(STARTS_S)
        while time.monotonic() < end:
            with contextlib.suppress(OSError):
                return urllib.request.urlopen(
                    urllib.request.Request(address, headers=headers), timeout=patience.seconds(5)
                ).status
            time.sleep(0.3)
        return self.fail(f"{address} does not answer: {self.log.read_text()[-2000:]}")
