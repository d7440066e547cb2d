"""Pictures are decoded in a process of their own, with limits: a hostile file may break it, and nothing else.

Each file has a process, forked from one that has the decoders loaded. It may take so much memory and time, and only as many as
the machine has processors run at once; the system's own limits end it. Decision 029.
"""

import logging
import math
import multiprocessing
import os
import resource
import signal
import sys
import threading
import warnings
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from dimgrey.pictures.filekinds import PictureError


@dataclass(frozen=True)
class Limits:
    """What reading one file may take. memory: bytes of its own. seconds: of a processor. waits: seconds until its turn comes."""

    memory: int = 1_300_000_000
    seconds: float = 60.0
    waits: float = 60.0


LIMITS = Limits()
AT_ONCE = max(1, min(os.cpu_count() or 1, 4))
TOO_MUCH = "The picture needs more memory to be read than there is for one. Save a smaller copy, or one at 8 bits."
TOO_LONG = "The picture takes too long to be read. Save it again as JPEG or TIFF, or smaller."
BROKEN = (
    "The decoder broke off at this file, so it is damaged or made to harm. Save it again from the program it came from."
)
ENDS_S = 2
"""What broke off has ended after so many seconds, and says how."""
BUSY = "Other pictures are being read just now. Try again in a minute."
SLACK = 8
"""By the clock a file may take so many times its seconds: the machine may be busy, and a decoder may hang."""
POLITE = 5
"""How much the decoder steps back for pages that are asked for meanwhile."""
_processes = multiprocessing.get_context("forkserver")
_processes.set_forkserver_preload(["dimgrey.pictures.decoding"])
_room = threading.BoundedSemaphore(AT_ONCE)


WHOLE = Limits(memory=2_200_000_000, seconds=120.0)
"""For a picture at its full size."""


def decoded_apart(path, filename="", limits=LIMITS, whole=None):
    """Decoded of the file at a path, read within limits. Raises PictureError with what to do instead.

    whole: None; or the path of a file that takes the light at full size, as NumPy writes arrays, while `linear` stays None.
    """
    if not _room.acquire(timeout=limits.waits):
        raise PictureError(BUSY, "picture-busy")
    try:
        kind, told = _asked(path, filename, limits, whole)
    finally:
        _room.release()
    if kind == "refused":
        raise PictureError(*told)
    return told


def _asked(path, filename, limits, whole):
    here, there = _processes.Pipe(duplex=False)
    asked = (there, os.fspath(path), filename, limits, whole and os.fspath(whole))
    process = _processes.Process(target=_decode, args=asked, daemon=True)
    process.start()
    there.close()
    try:
        if not here.poll(limits.seconds * SLACK):
            return "refused", (TOO_LONG, "picture-too-long")
        return here.recv()
    except (EOFError, OSError):
        process.join(ENDS_S)
        if process.exitcode == -signal.SIGXCPU:
            return "refused", (TOO_LONG, "picture-too-long")
        return "refused", (BROKEN, "picture-broken")
    finally:
        here.close()
        process.kill()
        process.join()
        process.close()


def _decode(answer, path, filename, limits, whole):
    """What runs apart: its answer is ("decoded", Decoded) or ("refused", (sentence, code))."""
    os.nice(POLITE)
    resource.setrlimit(resource.RLIMIT_DATA, (limits.memory, limits.memory))
    seconds = math.ceil(limits.seconds)
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
    # What libraries mutter over damaged files says nothing that the sentence does not.
    logging.disable(logging.CRITICAL)
    warnings.simplefilter("ignore")
    from dimgrey.pictures import shrinking
    from dimgrey.pictures.decoding import decoded

    if whole:
        shrinking.LONG_SIDE = sys.maxsize  # in this process, which does nothing else
    try:
        made = decoded(Path(path), filename)
        if whole:
            np.save(whole, made.linear)
            made = replace(made, linear=None, shown=None)
        answer.send(("decoded", made))
    except PictureError as refused:
        answer.send(("refused", (str(refused), refused.code)))
    except MemoryError:
        answer.send(("refused", (TOO_MUCH, "picture-too-large")))
