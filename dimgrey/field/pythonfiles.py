"""The Python that the field page runs: the vendored runtime, and the core zipped as it lies here.

Everything has its version in its address and is kept by browsers for good; a new core is a new address.
"""

import hashlib
import io
import zipfile
from functools import lru_cache
from pathlib import Path

import exifread

import dimgrey.core

VERSION = "314.0.7"
"""Of the runtime, as script/vendor pins it."""
FOLDER = Path(__file__).with_name("python")
CORE = Path(dimgrey.core.__file__).parent
EXIF = Path(exifread.__file__).parent
NAMES = {
    "pyodide.mjs": ("text/javascript", "gzip"),
    "pyodide.asm.mjs": ("text/javascript", "gzip"),
    "pyodide.asm.wasm": ("application/wasm", "gzip"),
    "pyodide-lock.json": ("application/json", ""),
    "python_stdlib.zip": ("application/zip", ""),
}
"""Files of the runtime: what they are, and how they lie packed here."""
LONG_AGO = (1980, 1, 1, 0, 0, 0)


def runtime_file(name):
    """(bytes, content type, content encoding) of a file of NAMES."""
    kind, encoding = NAMES[name]
    return (FOLDER / (name + ".gz" if encoding else name)).read_bytes(), kind, encoding


@lru_cache(maxsize=1)
def core_zip():
    """(bytes, version) of the core's sources and of its reader of exposure data as a ZIP: the same bytes for the same sources."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as out:
        out.writestr(zipfile.ZipInfo("dimgrey/__init__.py", LONG_AGO), b"")
        for path in sorted(EXIF.rglob("*.py")):
            name = f"exifread/{path.relative_to(EXIF).as_posix()}"
            out.writestr(zipfile.ZipInfo(name, LONG_AGO), path.read_bytes(), zipfile.ZIP_DEFLATED)
        for path in sorted(CORE.rglob("*")):
            if path.suffix in (".py", ".json"):
                name = f"dimgrey/core/{path.relative_to(CORE).as_posix()}"
                out.writestr(zipfile.ZipInfo(name, LONG_AGO), path.read_bytes(), zipfile.ZIP_DEFLATED)
    data = packed.getvalue()
    return data, hashlib.sha256(data).hexdigest()[:12]
