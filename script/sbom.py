"""Adds the vendored front-end files to a CycloneDX list of the Python packages. script/audit calls it: sbom.py PYTHON.json > sbom.json."""

import json
import re
import sys
from pathlib import Path

VENDOR = Path(__file__).with_name("vendor")
ONLY_FOR_WORK = {"purgecss", "axe-core"}


def vendored():
    """(name, version) of each package that script/vendor copies from."""
    text = VENDOR.read_text(encoding="utf-8")
    found = re.findall(r"(?<![\w/])(@?[\w./-]+)@(\d+\.\d+\.\d+)", text)
    return sorted({(name, version) for name, version in found if name not in ONLY_FOR_WORK})


def main():
    bom = json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))
    for name, version in vendored():
        purl = f"pkg:npm/{name.replace('@', '%40')}@{version}"
        bom["components"].append({"type": "library", "bom-ref": purl, "name": name, "version": version, "purl": purl})
    bom["metadata"] = {"component": {"type": "application", "name": "dimgrey", "bom-ref": "dimgrey"}}
    bom.pop("serialNumber", None)
    print(json.dumps(bom, indent=1, sort_keys=True))


main()
