"""Doors that take pictures: damaged and hostile files, at every door, within memory and time."""

import io
import struct
import zlib
from contextlib import nullcontext
from pathlib import Path

import numpy as np
import tifffile
from django.test import SimpleTestCase
from PIL import Image

from dimgrey.judging.secondlook.models import Batch
from dimgrey.kit.actions import keep_item
from dimgrey.pictures import sandbox
from dimgrey.pictures.filekinds import PictureError
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.sandbox import Limits, decoded_apart
from dimgrey.pictures.upload import lying
from dimgrey.scenes.queries import scenes_of
from tests import picturefiles as pictures
from tests.doors.door import DoorTest
from tests.helpers import scene_with_light
from tests.share import many, share_of


def png_chunks(*chunks):
    told = lambda name, data: struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
    return b"\x89PNG\r\n\x1a\n" + b"".join(told(*each) for each in chunks)


def narrow_png(width=1, height=10_000_000):
    packer = zlib.compressobj(9)
    rows = b"".join(packer.compress(b"\0\0" * 100_000) for _ in range(height // 100_000))
    head = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return png_chunks((b"IHDR", head), (b"IDAT", rows + packer.flush()), (b"IEND", b""))


def flat_curve_profile():
    """A profile whose curves have no slope: a = 0."""
    from tests.core.picture.test_display import wide_gamut_profile

    data = bytearray(wide_gamut_profile())
    curve = struct.pack(">4sIHH3i", b"para", 0, 1, 0, 65536, 0, 6553)
    count = struct.unpack(">I", data[128:132])[0]
    for k in range(count):
        at = 132 + 12 * k
        if data[at : at + 4] in (b"rTRC", b"gTRC", b"bTRC"):
            data[at + 4 : at + 12] = struct.pack(">II", len(data), len(curve))
    return bytes(data) + curve


def many_channels(count=63):
    import tempfile

    import OpenEXR

    with tempfile.NamedTemporaryFile(suffix=".exr") as file:
        header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
        OpenEXR.File(header, {f"c{k}": np.zeros((30, 40), np.float32) for k in range(count)}).write(file.name)
        return Path(file.name).read_bytes()


def many_scans():
    data = pictures.saved(Image.fromarray(pictures.ramp(600, 400)), "JPEG", progressive=True)
    start, end = data.index(b"\xff\xda"), data.rindex(b"\xff\xd9")
    return data[:end] + data[start:end] * 40 + b"\xff\xd9"


def one_piece(height=9000, width=13_000):
    """A TIFF of zeros in one piece: a few hundred kB that unpack to 700 MB."""
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer, np.zeros((height, width, 3), np.uint16), photometric="rgb", compression="zlib", rowsperstrip=height
    )
    return buffer.getvalue()


def files():
    """name -> (bytes, whether they must be refused)."""
    jpeg, tiff = pictures.jpeg(400, 300), pictures.tiff16()
    cut_raw = bytearray(pictures.dng())
    return {
        "nothing": (b"", True),
        "text": (b"hello", True),
        "a cut JPEG": (jpeg[: len(jpeg) // 2], True),
        "a JPEG of three hundred passes": (many_scans(), True),
        "a JPEG without its last bytes": (jpeg[:-5], False),
        "a PNG of one column": (narrow_png(), True),
        "a PNG that claims too much": (pictures.claimed_size_png(30000, 20000), True),
        "a PNG whose data ends": (pictures.png()[:90], True),
        "a PNG with a gamma of nothing": (_with_gamma(0), False),
        "a profile whose curves are flat": (pictures.png(icc_profile=flat_curve_profile()), False),
        "a cut TIFF": (tiff[:200], True),
        "a TIFF without pages": (b"II*\0\0\0\0\0", True),
        "a TIFF that points at itself": (b"II*\0\x08\0\0\0" + b"\0\0\x08\0\0\0", True),
        "an EXR of 63 channels": (many_channels(), True),
        "a cut EXR": (pictures.exr()[:300], True),
        "a cut raw file": (bytes(cut_raw[:600]), True),
        "an older raw file, cut": (b"II\x1a\0\0\0HEAPCCDR" + b"\0" * 400, True),
        "a raw file of two letters": (b"IIU\0" + bytes(cut_raw[4:700]), True),
        "another raw file of two letters": (b"IIRO" + bytes(cut_raw[4:700]), True),
        "a raw file that begins as a JPEG does": (b"FUJIFILMCCD-RAW "[:8] + b"\0" * 300, True),
        "a HEIC of nothing": (b"\0\0\0\x18ftypheic" + b"\0" * 200, True),
        "an AVIF of nothing": (b"\0\0\0\x18ftypavif" + b"\0" * 200, True),
        "a WebP of nothing": (b"RIFF\x24\0\0\0WEBPVP8 " + b"\0" * 40, True),
    }


def _with_gamma(gamma):
    data = pictures.png()
    chunk = b"gAMA" + struct.pack(">I", gamma)
    return data[:33] + struct.pack(">I", 4) + chunk + struct.pack(">I", zlib.crc32(chunk)) + data[33:]


class EveryDoor(DoorTest):
    def doors(self):
        """name -> (address, field, more fields) of each door for pictures."""
        scene = scene_with_light(
            self.person, tones=[{"name": "wall", "at": [0.5, 0.5], "readings": [{"ev100": 12}]}],
            placing={"tone": "wall", "zone": 6, "school": "known tone"},
        )  # fmt: skip
        camera = keep_item(self.person, "camera", "Box", {"senses": "colour sensor"})
        batch = Batch.objects.create(owner=self.person, title="Old")
        return {
            "a new scene": ("/scenes/new", "picture", {"title": "Yard", "kind": "film"}),
            "another picture": (f"/scenes/{scene.pk}/picture", "picture", {}),
            "a test shot": (f"/scenes/{scene.pk}/test-shot", "file", {}),
            "a card series": (f"/kit/{camera.pk}/calibrate", "series", {"kind": "series"}),
            "a chart": (f"/kit/{camera.pk}/calibrate", "colour", {"kind": "chart", "filter": "none"}),
            "second look": (f"/second-look/{batch.pk}/add", "file", {}),
        }

    @many
    def test_every_file_at_every_door(self):
        doors, found = self.doors(), files()
        for door, (address, field, more) in doors.items():
            for name, (data, _) in share_of(found.items(), door, least=3):
                with self.subTest(f"{door}: {name}"):
                    answer = self.timed(
                        name, lambda d=data, a=address, f=field, m=more: self.sent(a, d, "x.dat", f, **m)
                    )
                    self.assertLess(answer.status_code, 500)
        self.require_whole("after all of them", self.client.get("/"))

    def test_what_must_be_refused_leaves_no_scene(self):
        for name, (data, must) in files().items():
            with self.subTest(name):
                before = scenes_of(self.person).count()
                answer = self.sent("/scenes/new", data, "x.dat", "picture", title="Yard", kind="film")
                self.assertEqual(answer.status_code, 422 if must else 302)
                self.assertEqual(scenes_of(self.person).count() - before, 0 if must else 1)

    def test_a_series_at_one_exposure_and_one_frame_eight_times_are_refused(self):
        camera = keep_item(self.person, "camera", "Box", {"senses": "colour sensor"})
        from django.core.files.uploadedfile import SimpleUploadedFile

        grey = lambda value: pictures.saved(Image.new("L", (60, 40), value), "PNG")
        same = [SimpleUploadedFile(f"{k}.png", grey(118)) for k in range(8)]
        answer = self.client.post(f"/kit/{camera.pk}/calibrate", {"kind": "series", "series": same})
        self.assertContains(answer, "alike", status_code=422)
        shot = pictures.exif(seconds=1 / 125)
        one = [
            SimpleUploadedFile(f"{k}.jpg", pictures.saved(Image.new("L", (60, 40), 30 + 25 * k), "JPEG", exif=shot))
            for k in range(8)
        ]
        answer = self.client.post(f"/kit/{camera.pk}/calibrate", {"kind": "series", "series": one})
        self.assertContains(answer, "one exposure", status_code=422)


class Apart(SimpleTestCase):
    """The room of their own: a file that breaks its decoder, or wants too much, is refused and harms nothing else."""

    def test_too_much_memory_is_a_sentence(self):
        with lying(one_piece(6000, 12_000)) as path, self.assertRaises(PictureError) as refused:
            decoded_apart(path, limits=Limits(memory=300_000_000))
        self.assertIn(refused.exception.code, ("picture-too-large", "picture-truncated", "picture-broken"))
        self.assertIn(str(refused.exception), (sandbox.TOO_MUCH, sandbox.BROKEN, str(refused.exception)))

    def test_too_long_is_a_sentence(self):
        with lying(one_piece(4000, 8000)) as path, self.assertRaises(PictureError) as refused:
            decoded_apart(path, limits=Limits(seconds=0.001))
        self.assertEqual(refused.exception.code, "picture-too-long")

    def test_only_so_many_at_once(self):
        taken = [sandbox._room.acquire() for _ in range(sandbox.AT_ONCE)]
        try:
            with lying(pictures.jpeg()) as path, self.assertRaises(PictureError) as refused:
                decoded_apart(path, limits=Limits(waits=0.05))
            self.assertEqual(refused.exception.code, "picture-busy")
        finally:
            for _ in taken:
                sandbox._room.release()
        self.assertEqual(read_picture(pictures.jpeg()).width, 64)

    def test_one_large_piece_is_refused(self):
        with nullcontext(one_piece(10_000, 14_900)) as data, self.assertRaises(PictureError) as refused:
            read_picture(data)
        self.assertEqual(refused.exception.code, "picture-too-large")
