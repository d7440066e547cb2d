"""What only time and crowds show: fifty people with think time, kills in the middle of acts, a full disk. Minutes; script/soak runs it.

script/soak people [SECONDS]    fifty people, each with scenes of their own, think one to five seconds between two requests
script/soak kills [TIMES]       server and reader are killed while acts and pictures come in: what was confirmed is there, once
script/soak imports [COUNT]     so many pictures of 24 MP come at once: how long others wait, how soon each is read (8)
script/soak pictures            large pictures are sent while somebody works: what each takes, how long the others wait
script/soak phones [STEPS SEED] two phones and a desk, cut, killed and fallen over: the same everywhere in the end (1,000 steps)
script/soak disk                the disk is full: sentences, and nothing lost (as root, on a small file system of its own)
"""

import atexit
import contextlib
import http.client
import json
import os
import random
import re
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.parse
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PEOPLE, SCENES = 50, 2
THINKS_S = (1.0, 5.0)
HOST = "localhost"


class Server:
    """script/serve on a data folder of its own."""

    def __init__(self, data, port="18431"):
        self.port = port
        kept = {key: value for key, value in os.environ.items() if not key.startswith(("DIMGREY_", "DJANGO_"))}
        self.env = {**kept, "DIMGREY_MODE": "hosted", "DIMGREY_HOSTS": HOST, "DIMGREY_SECRET_KEY": "s0" * 40,
                    "DIMGREY_DATA": str(data), "DIMGREY_PORT": port, "DIMGREY_LOG": str(data / "log"),
                    "DJANGO_SETTINGS_MODULE": "dimgrey.site.settings"}  # fmt: skip
        data.mkdir(parents=True, exist_ok=True)
        self.log = (data / "out").open("a")
        self.process = self.reader = None

    def run(self, *args, **more):
        return subprocess.run(args, cwd=ROOT, env=self.env, check=True, capture_output=True, text=True, **more).stdout

    def start(self):
        self.process = self._begin("script/serve")
        if self.reader is None or self.reader.poll() is not None:
            self.read()
        atexit.register(self.stop)
        for _ in range(900):
            try:
                if Visitor(self.port).ask("GET", "/health")[0] == 200:
                    return self
            except OSError:
                time.sleep(0.1)
        raise SystemExit("The server does not start.")

    def read(self):
        """Begin the process that reads the pictures."""
        self.reader = self._begin("script/serve", "read")

    def _begin(self, *command):
        return subprocess.Popen(
            command, cwd=ROOT, env=self.env, stdout=self.log, stderr=self.log, start_new_session=True
        )

    def kill(self, how=signal.SIGKILL, whom=("process", "reader")):
        """End both processes, or one of them, with all that they began."""
        for each in filter(None, (getattr(self, name) for name in whom)):
            with contextlib.suppress(ProcessLookupError):
                os.killpg(each.pid, how)
            each.wait()

    def stop(self):
        """End the server, whatever became of the run."""
        self.kill(signal.SIGTERM)

    def memory_mb(self):
        """Resident memory of the server and what it started, MB: (itself, all of them)."""
        sizes = self._sizes()
        return sizes.get(self.process.pid, 0.0), sum(sizes.values())

    def largest_child_mb(self):
        """Resident memory of the largest process that the server started, MB."""
        return max((size for pid, size in self._sizes().items() if pid != self.process.pid), default=0.0)

    def _sizes(self):
        sizes = {}
        for status in Path("/proc").glob("[0-9]*/status"):
            try:
                text = status.read_text()
            except OSError:
                continue
            try:
                group = os.getpgid(int(status.parent.name))
            except ProcessLookupError:
                continue
            found = re.search(r"VmRSS:\s+(\d+) kB", text)
            if found and group in (self.process.pid, self.reader.pid):
                sizes[int(status.parent.name)] = int(found[1]) / 1000
        return sizes


class Visitor:
    """One person's browser, as far as a server sees it."""

    def __init__(self, port, session=""):
        self.port, self.session, self.token = port, session, "t" * 32
        self.line = None

    def ask(self, method, path, body=None, **headers):
        """(status, body, seconds) of one request; the connection stays, as browsers keep it."""
        self.line = self.line or http.client.HTTPConnection("127.0.0.1", int(self.port), timeout=60)
        sent = {"Host": HOST, "X-Forwarded-Proto": "https", "X-Forwarded-For": "203.0.113.7", "Accept-Encoding": "gzip",
                "Cookie": f"sessionid={self.session}; csrftoken={self.token}", **headers}  # fmt: skip
        if body is not None:
            body = urllib.parse.urlencode(body)
            sent |= {"Content-Type": "application/x-www-form-urlencoded", "X-CSRFToken": self.token, "Origin": f"https://{HOST}",
                     "HX-Request": "true"}  # fmt: skip
        began = time.monotonic()
        try:
            self.line.request(method, path, body, sent)
            answer = self.line.getresponse()
            data = answer.read()
        except (http.client.HTTPException, OSError):
            self.line.close()
            self.line = None
            raise
        return answer.status, data, time.monotonic() - began

    def send(self, path, data, name, field="picture", **fields):
        """(status, where it leads, seconds from the last byte to the answer) of a file that is sent with some fields; a line of its own."""
        mark = "----soak"
        part = lambda key, value: f'--{mark}\r\nContent-Disposition: form-data; name="{key}"\r\n\r\n{value}\r\n'
        head = "".join(part(*each) for each in {**fields, "csrfmiddlewaretoken": self.token}.items())
        head += f'--{mark}\r\nContent-Disposition: form-data; name="{field}"; filename="{name}"\r\nContent-Type: image/any\r\n\r\n'
        line = http.client.HTTPConnection("127.0.0.1", int(self.port), timeout=300)
        line.request("POST", path, head.encode() + data + f"\r\n--{mark}--\r\n".encode(), {
            "Host": HOST, "X-Forwarded-Proto": "https", "Content-Type": f"multipart/form-data; boundary={mark}",
            "Cookie": f"sessionid={self.session}; csrftoken={self.token}", "Referer": f"https://{HOST}/", "Origin": f"https://{HOST}",
        })  # fmt: skip
        sent = time.monotonic()
        answer = line.getresponse()
        answer.read()
        line.close()
        return answer.status, answer.headers.get("Location", ""), time.monotonic() - sent


FILL = """
import json, sys
import django
django.setup()
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore
from django.utils import timezone
from dimgrey.people import accounts
from dimgrey.core.picture.overhead import Overhead
from dimgrey.pictures import store
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from dataclasses import replace
from dimgrey.site.management.commands.load_demo import DEMO, DemoOuting, _read, load_outing
people, scenes = int(sys.argv[1]), int(sys.argv[2])


def looked_at(scene):
    # What a first visit leaves beside the picture.
    store.light_map(scene.picture.path, 1000)
    store.sky(scene.picture.path, NO_DRAWN)
    return True


NO_DRAWN = Overhead(None)
plan = _read(DemoOuting, DEMO / "outing.json")
told = []
for k in range(people):
    person = accounts.make(f"person {k}", None)
    part = tuple(plan.scenes[(k + n) % len(plan.scenes)] for n in range(scenes))
    load_outing(person, replace(plan, scenes=part), timezone.now().date())
    session = SessionStore()
    session[SESSION_KEY], session[BACKEND_SESSION_KEY] = str(person.pk), "django.contrib.auth.backends.ModelBackend"
    session[HASH_SESSION_KEY] = person.get_session_auth_hash()
    session.save()
    rows = []
    for scene in [s for s in Scene.objects.filter(owner=person) if s.document.tones]:
        situation = Situation(scene)
        rows.append({"pk": scene.pk, "marks": [t.mark for t in scene.document.tones], "grey": situation.grey, "outing": scene.outing_id,
                     "light": looked_at(scene) and f"/pictures/{scene.picture.folder}/light-1000.bin", "colour": situation.colour, "ready": bool(situation.plan)})
    told.append({"session": session.session_key, "scenes": rows})
print(json.dumps(told))
"""


def at_work(server, told, until, found, seed):
    """One person: opens a scene, looks, sights, places, reads, goes on. found: (what, seconds, status) of each request."""
    chance, visitor = random.Random(seed), Visitor(server.port, told["session"])
    time.sleep(chance.uniform(0, THINKS_S[1]))
    while time.monotonic() < until:
        scene = chance.choice(told["scenes"])
        ready = [each for each in told["scenes"] if each["ready"]] or [scene]
        act = {"mark": chance.choice(scene["marks"]), "zone": chance.choice(["3", "4", "5", "6", "7"])}
        ways = [
            (3, "desk", "GET", f"/scenes/{scene['pk']}/", None),
            (3, "picture", "GET", f"{scene['grey']}?small=1", None),
            (1, "light map", "GET", scene["light"], None),
            (4, "place", "POST", f"/scenes/{scene['pk']}/do/place", act),
            (3, "sight", "GET", f"/scenes/{scene['pk']}/sight?x={chance.random():.4f}&y={chance.random():.4f}", None),
            (1, "home", "GET", "/", None),
            (1, "outing", "GET", f"/outings/{scene['outing']}/", None),
            (1, "bench", "GET", f"/scenes/{chance.choice(ready)['pk']}/filters", None),
            (1, "greys", "GET", f"/scenes/{chance.choice(ready)['pk']}/edit/seeing", None),
            (1, "frames", "GET", "/frames/", None),
        ]
        _, what, method, path, body = chance.choices(ways, [way[0] for way in ways])[0]
        try:
            status, _, seconds = visitor.ask(method, path, body)
        except (http.client.HTTPException, OSError) as failed:
            status, seconds = repr(failed), 60.0
        found.append((what, seconds, status, time.monotonic()))
        time.sleep(chance.uniform(*THINKS_S))


SETTLES_S = 90.0
"""The first minutes make what lies beside each picture from then on; they are told, and not counted."""


def people(seconds=120.0):
    folder = Path(tempfile.mkdtemp(prefix="dimgrey-soak-"))
    server = Server(folder / "data")
    server.run("script/serve", "prepare")
    print(f"Filling a house of {PEOPLE} ...", flush=True)
    told = json.loads(server.run(".venv/bin/python", "-c", FILL, str(PEOPLE), str(SCENES)).splitlines()[-1])
    server.start()
    every, memory, began = [], [], time.monotonic()
    until = began + SETTLES_S + seconds
    threads = [threading.Thread(target=at_work, args=(server, each, until, every, k)) for k, each in enumerate(told)]
    for thread in threads:
        thread.start()
    while any(thread.is_alive() for thread in threads):
        memory.append(server.memory_mb())
        time.sleep(2)
    server.kill(signal.SIGTERM)
    shutil.rmtree(folder)
    first = sorted(each[1] * 1000 for each in every if each[3] - began < SETTLES_S)
    found = [each for each in every if each[3] - began >= SETTLES_S]
    wrong = [each for each in every if each[2] not in (200, 302)]
    print(f"the first {SETTLES_S:.0f} s: {len(first)} requests, p95 {first[int(len(first) * 0.95)]:.0f} ms")
    times = sorted(each[1] * 1000 for each in found)
    part = lambda share: times[min(int(len(times) * share), len(times) - 1)]
    print(
        f"{len(found)} requests in {seconds:.0f} s ({len(found) / seconds:.1f} a second), {len(wrong)} failed {wrong[:3]}"
    )
    print(f"p50 {part(0.5):.0f} ms, p95 {part(0.95):.0f} ms, p99 {part(0.99):.0f} ms, longest {times[-1]:.0f} ms")
    for what in sorted({each[0] for each in found}):
        own = sorted(each[1] * 1000 for each in found if each[0] == what)
        print(f"  {what:10} {len(own):5}  p50 {statistics.median(own):6.0f}  p95 {own[int(len(own) * 0.95)]:6.0f} ms")
    print(
        f"server {max(m[0] for m in memory):.0f} MB, with the reader and its decoders {max(m[1] for m in memory):.0f} MB"
    )
    return 1 if wrong or part(0.95) >= 300 or max(m[0] for m in memory) >= 500 else 0


def pictures():
    """Large and hostile pictures are sent while somebody works: what each takes, and how long the others wait."""
    import io

    import numpy as np
    import tifffile

    def tiff(height, width, value=None):
        coarse = np.random.default_rng(2).integers(0, 65535, (height // 10, width // 10, 3), dtype=np.uint16)
        pixels = np.zeros((height, width, 3), np.uint16) if value == 0 else np.repeat(np.repeat(coarse, 10, 0), 10, 1)
        out = io.BytesIO()
        tifffile.imwrite(
            out, pixels, photometric="rgb", compression="zlib", compressionargs={"level": 1}, rowsperstrip=16
        )
        return out.getvalue()

    files = {
        "24 MP, 16 bits": (tiff(4000, 6000), 700),
        "45 MP, 16 bits": (tiff(5480, 8200), 1200),
        "149 MP of zeros": (tiff(10000, 14900, 0), 1500),
    }
    folder = Path(tempfile.mkdtemp(prefix="dimgrey-soak-"))
    server = Server(folder / "data")
    server.run("script/serve", "prepare")
    told = json.loads(server.run(".venv/bin/python", "-c", FILL, "1", "1").splitlines()[-1])[0]
    server.start()
    sender, worker, missed = Visitor(server.port, told["session"]), Visitor(server.port, told["session"]), False
    worker.ask("GET", f"/scenes/{told['scenes'][0]['pk']}/")  # the first page after a start
    for name, (data, most) in files.items():
        done, waits, peak = threading.Event(), [], [0.0]

        def send(data=data, done=done):
            send.status = sender.send("/scenes/new", data, "a.tif", title="Large", kind="film")[0]
            done.set()

        began = time.monotonic()
        threading.Thread(target=send).start()
        while not done.is_set():
            waits.append(worker.ask("GET", f"/scenes/{told['scenes'][0]['pk']}/")[2])
            peak[0] = max(peak[0], server.largest_child_mb())
            time.sleep(0.02)
        took = time.monotonic() - began
        missed |= peak[0] >= most or max(waits) >= 0.3 or send.status not in (302, 422)
        print(
            f"{name}: {took:.1f} s, answered {send.status}, {peak[0]:.0f} MB (at most {most}); others waited {max(waits) * 1000:.0f} ms at most"
        )
    server.kill(signal.SIGTERM)
    shutil.rmtree(folder)
    return 1 if missed else 0


def disk():
    """A file system of 200 MB of its own is filled up; then acts and uploads are answered, and all that was confirmed is there."""
    folder = Path(tempfile.mkdtemp(prefix="dimgrey-soak-"))
    subprocess.run(["mount", "-t", "tmpfs", "-o", "size=200m", "tmpfs", str(folder)], check=True)
    try:
        server = Server(folder / "data")
        server.run("script/serve", "prepare")
        told = json.loads(server.run(".venv/bin/python", "-c", FILL, "1", "1").splitlines()[-1])[0]
        server.start()
        scene, visitor = told["scenes"][0], Visitor(server.port, told["session"])
        address, confirmed, refusals = f"/scenes/{scene['pk']}/do/intent", [], 0
        filler = os.open(folder / "filler", os.O_WRONLY | os.O_CREAT)
        for size in (1 << 20, 1 << 12):
            with contextlib.suppress(OSError):
                while os.write(filler, b"x" * size):
                    pass
        os.close(filler)
        for k in range(400):
            status, body, _ = visitor.ask("POST", address, {"title": f"full {k}"})
            if status == 200:
                confirmed.append(f"full {k}")
            else:
                refusals += 1
                said = (status, body.decode()[:120])
        print(f"full disk: {len(confirmed)} acts confirmed, {refusals} refused with {said}")
        pages = [visitor.ask("GET", path)[0] for path in (f"/scenes/{scene['pk']}/", "/frames/")]
        (folder / "filler").unlink()
        status, _, _ = visitor.ask("POST", address, {"title": "room again"})
        server.kill(signal.SIGTERM)
        code = "import django; django.setup(); from dimgrey.scenes.models import Revision; import json; print(json.dumps([r.kept.get('title') for r in Revision.objects.all()]))"
        kept = set(json.loads(server.run(".venv/bin/python", "-c", code).splitlines()[-1]))
        lost = [name for name in confirmed if name not in kept]
        print(f"pages meanwhile {pages}, an act with room again {status}, {len(lost)} confirmed acts lost")
        return 1 if lost or status != 200 or not refusals or said[0] != 503 or pages != [200, 200] else 0
    finally:
        subprocess.run(["umount", "-l", str(folder)], check=False)


def phones(steps=1000, seed=29):
    """The monkey of the suite, at length; its seed is printed."""
    env = {**os.environ, "DIMGREY_WHOLE": "1", "DIMGREY_STEPS": f"{steps:.0f}", "DIMGREY_SEED": f"{seed:.0f}"}
    command = ("manage.py", "test", "--settings", "tests.settings", "--noinput", "tests.field.test_phones")
    return subprocess.run([sys.executable, *command], cwd=ROOT, env=env, check=False).returncode


if __name__ == "__main__":
    from tests.soakqueue import imports, kills

    name, *given = sys.argv[1:] or ["people"]
    raise SystemExit(
        {"people": people, "kills": kills, "imports": imports, "pictures": pictures, "phones": phones, "disk": disk}[
            name
        ](*map(float, given))
    )
