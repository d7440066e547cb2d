// Makes the Python of the field page from the distribution in the npm registry: the runtime compressed, its standard library cut down
// to what the core imports and compiled, so that it starts in a third of the time. Called by script/vendor.
//   node vendor_python.mjs PACKAGE_FOLDER OUT_FOLDER CORE_ZIP
import fs from "node:fs";
import path from "node:path";
import zlib from "node:zlib";

const [from, to, core] = process.argv.slice(2);
const { loadPyodide } = await import(path.resolve(from, "pyodide.mjs"));
const python = await loadPyodide({ indexURL: `${path.resolve(from)}/` });
python.unpackArchive(new Uint8Array(fs.readFileSync(core)), "zip", { extractDir: "/home/pyodide" });

const made = python.runPython(`
import importlib, importlib.util, io, pathlib, sys, zipfile
import importlib._bootstrap_external as external

sys.modules["numpy"] = None
for path in sorted(pathlib.Path("/home/pyodide/dimgrey/core").rglob("*.py")):
    name = ".".join(path.relative_to("/home/pyodide").with_suffix("").parts).removesuffix(".__init__")
    try:
        importlib.import_module(name)
    except ImportError:
        pass  # it needs NumPy and stays at the desk
import _strptime, binascii, decimal, difflib, exifread, traceback, zipfile
import dimgrey.core.measure.shotdata, exifread.core.exif_header, exifread.core.find_exif, exifread.core.heic, exifread.core.jpeg, exifread.core.xmp
import xml.dom.minidom, xml.dom.expatbuilder

whole = zipfile.ZipFile(next(p for p in sys.path if p.endswith(".zip")))
names = set(whole.namelist())
kept = {n for n in names if n.startswith(("_pyodide/", "pyodide/", "encodings/utf_8", "encodings/ascii", "encodings/latin_1"))}
for name in sys.modules:
    stem = name.replace(".", "/")
    kept |= {stem + ".py", stem + "/__init__.py"} & names
packed = io.BytesIO()
with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as out:
    for name in sorted(kept):
        source = whole.read(name)
        if name.endswith(".py"):
            code = compile(source, "/lib/python314.zip/" + name, "exec", optimize=2, dont_inherit=True)
            data, name = external._code_to_hash_pyc(code, importlib.util.source_hash(source), False), name + "c"
        else:
            data = source
        out.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), data, zipfile.ZIP_DEFLATED)
packed.getvalue()
`);

const packed = (name, data) => fs.writeFileSync(path.join(to, `${name}.gz`), zlib.gzipSync(data, { level: 9 }));
const zip = (name) => packed(name, fs.readFileSync(path.join(from, name)));
zip("pyodide.asm.wasm");
zip("pyodide.asm.mjs");
fs.writeFileSync(path.join(to, "python_stdlib.zip"), made.toJs());
const plain = fs.readFileSync(path.join(from, "pyodide.mjs"), "utf8").replace(/^\/\/# sourceMappingURL=.*$/m, "");
packed("pyodide.mjs", plain);
// No package is ever loaded, so the list of them stays out.
const { info } = JSON.parse(fs.readFileSync(path.join(from, "pyodide-lock.json"), "utf8"));
fs.writeFileSync(path.join(to, "pyodide-lock.json"), JSON.stringify({ info, packages: {} }));
