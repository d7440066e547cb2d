"""What only crowds and kills show of the queue: many large pictures at once, and both processes killed while acts and pictures come in."""

import http.client
import io
import json
import random
import shutil
import signal
import tempfile
import threading
import time
import zipfile
from pathlib import Path

import numpy as np
from PIL import Image

from tests import picturefiles
from tests.soak import FILL, Server, Visitor

MOST_PAGE_S, MOST_HEALTH_S, MOST_ANSWER_S = 0.3, 0.1, 0.1
"""95 of 100 pages, health, and an upload after its last byte."""
HOW_FAR = """
import json
import django
django.setup()
from dimgrey.pictures.models import Arrival, Picture, pictures_path
from dimgrey.scenes.models import Revision, Scene
print(json.dumps({
    "waiting": Arrival.objects.filter(state="waiting").count(),
    "refused": list(Arrival.objects.filter(state="refused").values_list("sentence", flat=True)),
    "titles": [revision.kept.get("title") for revision in Revision.objects.all()],
    "scenes": [(s.owner.username, s.title, s.picture.original_name if s.picture else None, s.revisions.count())
               for s in Scene.objects.select_related("picture", "owner")],
    "pictures": Picture.objects.count(),
    "folders": len(list(pictures_path().iterdir())),
}))
"""


def how_far(server):
    return json.loads(server.run(".venv/bin/python", "-c", HOW_FAR).splitlines()[-1])


def until_read(server, seconds=180):
    """What a house holds once nothing waits any more. seconds: so long nothing may move meanwhile."""
    least, end = None, time.monotonic() + seconds
    while time.monotonic() < end:
        found = how_far(server)
        if not found["waiting"]:
            return found
        if least is None or found["waiting"] + found["folders"] != least:
            least, end = found["waiting"] + found["folders"], time.monotonic() + seconds
        time.sleep(0.5)
    raise SystemExit(f"{found['waiting']} pictures still wait, and nothing moves.")


def large_picture():
    """Bytes of a JPEG of 24 MP with detail at every size."""
    grown = np.random.default_rng(5)
    fine = sum(
        np.asarray(
            Image.fromarray(grown.integers(0, 255, (size, size * 3 // 2, 3), dtype=np.uint8)).resize((6000, 4000)),
            np.float32,
        )
        for size in (20, 200, 1500)
    )
    out = io.BytesIO()
    Image.fromarray((fine / 3).astype(np.uint8)).save(out, "JPEG", quality=90)
    return out.getvalue()


def imports(count=8):
    """So many pictures of 24 MP come at once while another person works and something asks for the health."""
    count, folder = int(count), Path(tempfile.mkdtemp(prefix="dimgrey-soak-"))
    server = Server(folder / "data")
    server.run("script/serve", "prepare")
    told = json.loads(server.run(".venv/bin/python", "-c", FILL, str(count + 1), "1").splitlines()[-1])
    server.start()
    data, done, answers, pages, health, memory = large_picture(), threading.Event(), [], [], [], []
    print(f"{count} pictures of {len(data) / 1e6:.1f} MB", flush=True)

    def work():
        visitor, scene = Visitor(server.port, told[-1]["session"]), told[-1]["scenes"][0]
        ways = [f"/scenes/{scene['pk']}/", "/", f"/outings/{scene['outing']}/", f"{scene['grey']}?small=1", "/frames/"]
        for k in range(2 * len(ways)):
            visitor.ask("GET", ways[k % len(ways)])  # the first of each, after a start
        began.set()
        while not done.is_set():
            pages.extend(visitor.ask("GET", way)[2] for way in ways)

    def watch():
        visitor = Visitor(server.port)
        while not done.is_set():
            health.append(visitor.ask("GET", "/health")[2])
            memory.append(server.memory_mb()[1])
            time.sleep(0.4)

    def send(who):
        answers.append(
            Visitor(server.port, who["session"]).send("/scenes/new", data, "large.jpg", title="Large", kind="film")
        )

    began = threading.Event()
    others = [threading.Thread(target=work), threading.Thread(target=watch)]
    for each in others:
        each.start()
    began.wait()
    pages.clear()
    start = time.monotonic()
    senders = [threading.Thread(target=send, args=(who,)) for who in told[:count]]
    for each in senders:
        each.start()
    for each in senders:
        each.join()
    sent = time.monotonic() - start
    found = until_read(server)
    took = time.monotonic() - start
    done.set()
    for each in others:
        each.join()
    server.kill(signal.SIGTERM)
    shutil.rmtree(folder)
    of = lambda times, share: sorted(times)[min(int(len(times) * share), len(times) - 1)]
    kept = sum(name == "large.jpg" for _, _, name, _ in found["scenes"])
    print(
        f"all sent after {sent:.1f} s, answered {of([a[2] for a in answers], 0.5) * 1000:.0f} ms (longest {max(a[2] for a in answers) * 1000:.0f}) after the last byte"
    )
    print(f"all read after {took:.1f} s, {kept} kept, refused {found['refused']}")
    print(
        f"{len(pages)} pages meanwhile: p50 {of(pages, 0.5) * 1000:.0f} ms, p95 {of(pages, 0.95) * 1000:.0f} ms, longest {max(pages) * 1000:.0f} ms"
    )
    print(
        f"health: p95 {of(health, 0.95) * 1000:.0f} ms, longest {max(health) * 1000:.0f} ms; all processes {max(memory):.0f} MB"
    )
    return 0 if kept == count and of(pages, 0.95) < MOST_PAGE_S and of(health, 0.95) < MOST_HEALTH_S else 1


ARCHIVE_EVERY = 40
"""Rounds in which an archive goes from one person to another."""
WHOM = (("process", "reader"), ("reader",), ("reader",), ("process",))
"""Who is killed: both, or one of them, the reader most often."""


def kills(times=200, seed=1):
    """Acts and pictures come in while server and reader are killed. What was confirmed is there in the end, each picture once, no file of nobody."""
    folder, chance = Path(tempfile.mkdtemp(prefix="dimgrey-soak-")), random.Random(int(seed))
    server = Server(folder / "data")
    server.run("script/serve", "prepare")
    told = json.loads(server.run(".venv/bin/python", "-c", FILL, "3", "1").splitlines()[-1])
    scene, acts, sent, moved = told[0]["scenes"][0], [], [], set()
    data = picturefiles.jpeg(900, 600)
    server.start()

    def typing(until):
        visitor = Visitor(server.port, told[0]["session"])
        while time.monotonic() < until:
            name = f"act {len(acts)}-{chance.random():.6f}"
            try:
                if visitor.ask("POST", f"/scenes/{scene['pk']}/do/intent", {"title": name})[0] == 200:
                    acts.append(name)
            except (http.client.HTTPException, OSError):
                return

    def sending(until):
        visitor = Visitor(server.port, told[1]["session"])
        while time.monotonic() < until:
            name = f"sent-{chance.random():.9f}"
            try:
                if visitor.send("/scenes/new", data, f"{name}.jpg", title=name, kind="film")[0] == 302:
                    sent.append(name)
            except (http.client.HTTPException, OSError):
                return
            time.sleep(0.4)

    def moving(until):
        """What one person sent goes over to another as an archive."""
        try:
            plain = {"Accept-Encoding": "identity"}
            archive = Visitor(server.port, told[1]["session"]).ask("GET", "/account/archive.zip", **plain)[1]
            with zipfile.ZipFile(io.BytesIO(archive)) as opened:
                held = [json.loads(opened.read(name)) for name in opened.namelist() if name.endswith("history.json")]
            other = Visitor(server.port, told[2]["session"])
            took = other.send("/account/archive/take", archive, "all.zip", "file", parts="scenes")
            if took[:2] == (302, "/account/archive"):
                moved.update(row["title"] for row in held if row["picture"])
        except (http.client.HTTPException, OSError, zipfile.BadZipFile):
            return

    for round in range(int(times)):
        lasts = chance.uniform(0.2, 1.2)
        hands = [
            threading.Thread(target=each, args=(time.monotonic() + lasts + 0.3,))
            for each in (typing, sending, *((moving,) if round % ARCHIVE_EVERY == 0 else ()))
        ]
        for hand in hands:
            hand.start()
        time.sleep(lasts)
        whom = chance.choice(WHOM)
        server.kill(whom=whom)
        for hand in hands:
            hand.join()
        server.start() if "process" in whom else server.read()
    found = until_read(server)
    server.kill(signal.SIGTERM)
    server.run(".venv/bin/python", "manage.py", "check_data")
    server.run(".venv/bin/python", "manage.py", "sweep_pictures", "--older-than", "-1")
    after = how_far(server)
    shutil.rmtree(folder)
    lost_acts = [name for name in acts if name not in set(found["titles"])]
    came = {title: (name, revisions) for who, title, name, revisions in found["scenes"] if who == "person 1"}
    theirs = {title for who, title, name, _ in found["scenes"] if who == "person 2" and name}
    twice = sum(who == "person 2" for who, *_ in found["scenes"]) - len(theirs)
    lost_moved = moved - theirs
    lost = [name for name in sent if came.get(name) != (f"{name}.jpg", 1)]
    left = after["folders"] - after["pictures"]
    print(f"{times:.0f} kills (seed {seed:.0f}): {len(acts)} acts and {len(sent)} pictures confirmed, {len(lost_acts)} and {len(lost)} lost, "
          f"{len(moved)} scenes moved by archives, {len(lost_moved)} lost, {twice} more than once, "
          f"{len(found['refused'])} refused {found['refused'][:2]}, {found['folders'] - found['pictures']} folders of nobody before the sweep, {left} after")  # fmt: skip
    return 1 if lost_acts or lost or lost_moved or left or found["refused"] or not acts or not sent else 0
