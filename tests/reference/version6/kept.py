"""What is kept beside this module, unpacked."""

import gzip
import json
from pathlib import Path

FOLDER = Path(__file__).parent


def kept(name):
    """What a file of this folder holds. name: "plans", "acts", "pages" or "phone"."""
    return json.loads(gzip.decompress((FOLDER / f"{name}.json.gz").read_bytes()))
