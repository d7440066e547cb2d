"""How long stories wait before they give up: limits for a quiet machine, stretched by how busy this one is.

A limit is there to end a story that hangs; it says nothing of speed, which `script/bench` measures.
"""

import time

QUIET_S = 0.02
"""What `_work` takes on a quiet machine of the kind that the limits were set on."""
LOOPS = 200_000
BUSIEST = 5.0
"""Beyond it a single slow piece of work would make a browser that hangs hold everything up for half an hour."""
MARGIN = 3.0
"""A browser has several processes, each of which may wait its turn where one loop does not."""


def _work():
    """A piece of work of a fixed size; its time by the clock says how much of a processor this process gets."""
    total = 0
    for k in range(LOOPS):
        total += k & 7
    return total


class Patience:
    """Measured at the start of every story; the longest of the last few counts, since a machine grows busy and quiet in turns."""

    def __init__(self):
        self.last = [1.0]

    def measure(self, clock=time.perf_counter):
        """Look how busy the machine is. clock: () -> seconds."""
        began = clock()
        _work()
        self.last = [*self.last[-4:], max((clock() - began) / QUIET_S, 1.0)]

    def seconds(self, quiet_s):
        """The limit to use for one that is `quiet_s` seconds on a quiet machine.

        >>> Patience().seconds(10)
        30.0
        """
        return quiet_s * MARGIN * self.busy

    @property
    def busy(self):
        """How many times longer than on a quiet machine things take here, 1 to BUSIEST."""
        return min(max(self.last), BUSIEST)


patience = Patience()
"""Of this process."""
