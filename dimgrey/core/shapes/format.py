"""Open formats: a part with a head that says which it is, of which version and minor revision."""

from dataclasses import dataclass, replace

from dimgrey.core.shapes.check import MOST_MISTAKES, DocumentError, either_of, mistakes_in, mistakes_of_shape, shown
from dimgrey.core.shapes.declare import extent, number, shape_of
from dimgrey.core.shapes.plain import plain_part, read_part

DIALECT = "https://json-schema.org/draft/2020-12/schema"


@dataclass(frozen=True)
class Format:
    """An open format: a part with a head that says what it is.

    name: "scene" of "dimgrey-scene". of: class of the part. version: that is written; older ones are read. begun: extent of the
    part when that version began; what has come since is the minor revision. upgraded: from plain values of an older version to those
    of this one.
    """

    name: str
    of: type
    version: int
    begun: int
    upgraded: object = None

    @property
    def format(self):
        return f"dimgrey-{self.name}"

    @property
    def minor(self):
        """The minor revision: how many keys and words the version has gained. It counts them, so nothing needs to be said."""
        return extent(self.of) - self.begun

    @property
    def versions(self):
        """Those that can be read, rising."""
        return tuple(range(1, self.version + 1))

    def schema(self, version=None):
        """The JSON Schema of a version, the present one without."""
        version = version or self.version
        made = shape_of(self.of, version)
        head = {"format": {"const": self.format}, "version": {"const": version}}
        last = {"minor": number(0, kind="integer")} if version == self.version else {}
        return {"$schema": DIALECT, "title": f"Dimgrey {self.name}", **made,
                "required": [*head, *made.get("required", ())], "properties": {**head, **last, **made["properties"]}}  # fmt: skip

    def is_newer(self, data):
        """Whether plain values are of a newer minor revision, whose keys this program may not know."""
        minor = data.get("minor", 0)
        return data.get("version") == self.version and type(minor) is int and minor > self.minor

    def check(self, data):
        """Raise DocumentError with one line per mistake of shape in what a JSON file held."""
        mistakes = list(self._mistakes(data))
        if mistakes:
            raise DocumentError(mistakes[:MOST_MISTAKES], f"{self.name}-file")

    def _mistakes(self, data):
        if not isinstance(data, dict):
            yield from mistakes_in(self.of, data)
            return
        said = data.get("version")
        version = said if type(said) is int and said in self.versions else self.version
        if said != version:
            yield self._of_version(data)
        if data.get("format", None) != self.format:
            got = f"must be {shown(self.format)} (got {shown(data['format'])})" if "format" in data else "missing"
            yield f"format: {got}."
        if "minor" in data:
            yield from mistakes_of_shape(number(0, kind="integer"), data["minor"], "minor")
        head = ("format", "version", *(("minor",) if "minor" in data else ()))
        yield from mistakes_in(self.of, data, version=version, lenient=self.is_newer(data), head=head)

    def _of_version(self, data):
        if "version" not in data:
            return "version: missing."
        readable = either_of(self.versions, quoted=False).replace(" or ", " and ")
        plural = "s" if len(self.versions) > 1 else ""
        return f"version: this program reads version{plural} {readable} (got {shown(data['version'])})."

    def read(self, data):
        """The part of plain values of any version that fits; a dictionary, never changed."""
        lifted = self.upgraded(data) if self.upgraded else data
        minor = lifted.get("minor", 0)
        body = {name: value for name, value in lifted.items() if name not in ("format", "version", "minor")}
        made = read_part(self.of, body)
        # What a newer program wrote goes out again as its own, or it would be refused.
        return made if minor <= self.minor else replace(made, beyond=(*made.beyond, ("minor", minor)))

    def write(self, part):
        """Plain values of a part in the present version; a fresh dictionary."""
        head = {"format": self.format, "version": self.version, **({"minor": self.minor} if self.minor else {})}
        return {**head, **plain_part(part)}
