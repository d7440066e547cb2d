"""What a scene document means: from the Document to the Brief that a plan is computed from.

Mistakes of meaning are gathered, each with its path, instead of stopping at the first.
"""

from dimgrey.core.camera.setups import TONE_EFFECTS, setup
from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.colour.ownmix import require_points
from dimgrey.core.document.lightscale import guess_decides
from dimgrey.core.document.tonebriefing import FOG_PRINT, ToneReader, fog_of, said_lists, school_of
from dimgrey.core.measure.brackets import require_bracket
from dimgrey.core.measure.exposure import Limits
from dimgrey.core.measure.handheld import handheld_limit_s
from dimgrey.core.measure.longexposure import reciprocity
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_time
from dimgrey.core.picture.crop import require_crop
from dimgrey.core.picture.outline import require_outline
from dimgrey.core.planning.brief import Brief, PlacingChoice
from dimgrey.core.planning.development import development_table
from dimgrey.core.planning.media import OUTER, limits_at, medium
from dimgrey.core.planning.wishes import Order
from dimgrey.core.planning.zones import MIDDLE, parse_zone, require_zone
from dimgrey.core.shapes.check import DocumentError

PLAIN_TONE = (0.0, 0.0, 0.0)


def brief_of(document, polarized=None, in_sky=None):
    """The Brief of a Document. Raises DocumentError with every mistake of meaning, each naming its path.

    polarized: overhead.Polarized, where a polarizer is on the lens and the sun's place is known. in_sky: from fractions x, y of the picture to
    whether its sky is there, None without a picture.
    """
    reader = _Reader(document, polarized, in_sky)
    brief = reader.brief()
    if reader.mistakes:
        raise DocumentError(reader.mistakes, "scene-file")
    return brief


def setup_of(part):
    """The checked Setup of a SetupPart. Raises CoreError."""
    return setup(part.name, part.effects, part.filter, part.protection_stops, part.file)


class _Reader(ToneReader):
    """Reads the whole Document."""

    def brief(self):
        document = self.document
        tones = tuple(self.tone(entry, f"tones[{k}]") for k, entry in enumerate(document.tones))
        self._names()
        if document.sky.area == "drawn":
            self.attempt("sky.outline", require_outline, document.sky.outline)
        glasses = (self.glass(entry, f"filters[{k}]") for k, entry in enumerate(document.filters))
        return Brief(
            title=document.title,
            increment=document.increment,
            light=document.light,
            medium=self.medium(),
            tones=tones,
            choice=self.choice(),
            filters=tuple(glass for glass in glasses if glass),
            magnification=document.lens.magnification,
            through_filter=document.meter.through_filter,
            aperture=self.marked("aperture", parse_aperture),
            shutter=self.marked("shutter", parse_time),
            limits=self.limits(),
            crop=self.crop(),
            bracket=self.bracket(),
            light_note=document.light_note,
            intent=document.intent,
            said_lists=said_lists(document),
            scale=document.wanted.scale,
            struck=document.wanted.struck,
            setup_toned=self.setup_toned(),
            orders=self.orders(),
            hand_limit_s=self.hand_limit_s(),
            support=document.needs.support,
            taken_in=guess_decides(document),
            pairs=tuple(pair for pair in document.pairs if set(pair) <= set(document.names)),
        )

    def orders(self):
        """Pair wishes between tones that are still there."""
        names = set(self.document.names)
        return tuple(
            Order(part.lighter, part.darker, float(part.zones))
            for part in self.document.orders
            if {part.lighter, part.darker} <= names and part.lighter != part.darker
        )

    def setup_toned(self):
        """Whether the setup in use has tone controls; its mistakes are told by its own part."""
        part = self.document.setup_in_use
        return part is not None and any(part.effects.get(effect) for effect in TONE_EFFECTS)

    def hand_limit_s(self):
        lens, camera = self.document.lens, self.document.camera
        if lens.focal_35mm is None:
            return None
        return handheld_limit_s(float(lens.focal_35mm), camera.hand_factor, camera.stabiliser_stops)

    def bracket(self):
        part = self.document.bracket
        return part and self.attempt("bracket", require_bracket, part.count, part.step, part.order)

    def crop(self):
        found = self.document.crop and self.attempt("crop", require_crop, *self.document.crop.box)
        return found and (found.left, found.top, found.right, found.bottom)

    def _names(self):
        names = self.document.names
        for k, name in enumerate(names):
            if name in names[:k]:
                self.mistakes.append(f"tones[{k}].name: “{name}” is used twice. Give each tone a name of its own.")
        marks = [tone.mark for tone in self.document.tones]
        for k, mark in enumerate(marks):
            if mark in marks[:k]:
                self.mistakes.append(f"tones[{k}].mark: {mark} is used twice. Give each tone a letter of its own.")
        wanted = self.document.placing.tone
        if wanted is not None and wanted not in names:
            self.mistakes.append(f"placing.tone: there is no tone “{wanted}”. Known: {', '.join(names) or 'none yet'}.")

    def medium(self):
        entry, increment = self.document.medium, self.document.increment
        speed = self.attempt("medium.iso", parse_speed, entry.iso, increment)
        made = self.attempt("setup", setup_of, self.document.setup) if self.document.setup_in_use else None
        mix = entry.channel_mix or (made.filter if made and entry.response is None else None)
        if mix is not None and self.attempt("medium.channel_mix", mixed_chain, mix) is None:
            mix = None
        headroom, footroom = self.ends_of(entry, speed, made)
        rows = [(row.step, row.minutes, row.stops) for row in entry.development]
        return self.attempt(
            "medium",
            medium,
            entry.kind,
            iso=speed.exact if speed else 100.0,
            response=entry.response,
            dependable=entry.dependable,
            outer=entry.outer,
            headroom=headroom,
            footroom=footroom,
            channel_mix=mix,
            own_mix=self.attempt("medium.own_mix", require_points, entry.own_mix) or (),
            reciprocity=self.reciprocity(entry.reciprocity),
            developments=self.attempt("medium.development", development_table, rows) or (),
            tone=made.tone if made and entry.kind == "digital file" else PLAIN_TONE,
            developed=entry.developed,
            by_sheet=entry.by_sheet,
            push_stops=self.push_stops(entry, speed),
        )

    def push_stops(self, entry, speed):
        """Stops that film is rated over its own speed, below 0 when it is rated under it."""
        own = entry.own_iso and self.attempt("medium.own_iso", parse_speed, entry.own_iso, self.document.increment)
        return speed.stops - own.stops if own and speed else 0.0

    def reciprocity(self, part):
        if part is None:
            return None
        if part.exponent is None and not part.table:
            self.mistakes.append("medium.reciprocity: needs an exponent or a table.")
            return None
        rows = [list(row) for row in part.table] or None
        return self.attempt("medium.reciprocity", reciprocity, part.exponent, part.onset_s, rows)

    def ends_of(self, entry, speed, made):
        """(headroom, footroom) in stops, None for the default: at the speed in use, with the setup's reserve."""
        headroom, footroom = entry.headroom, entry.footroom
        if entry.limits_per_iso and speed:
            at_speed = self.attempt("medium.limits_per_iso", limits_at, entry.limits_per_iso, speed.exact)
            headroom, footroom = at_speed or (headroom, footroom)
        if made and made.protection_stops:
            headroom = (headroom or OUTER[entry.kind][1] - MIDDLE) + made.protection_stops
        return headroom, footroom

    def choice(self):
        part = self.document.placing
        fog = fog_of(self.document) if part.school is None else None
        return PlacingChoice(
            school=school_of(self.document),
            tone=part.tone or fog,
            zone=FOG_PRINT
            if fog
            else None
            if part.zone is None
            else self.attempt("placing.zone", zone_value, part.zone),
            hold=part.hold,
            under_stops=float(part.under_stops),
            lifted=part.lifted,
            white=part.white,
            shadows=part.shadows,
            by_default=part.school is None and part.tone is None and part.zone is None,
        )

    def marked(self, key, parse):
        text = getattr(self.document.camera, key)
        return None if text is None else self.attempt(f"camera.{key}", parse, text, self.document.increment)

    def limits(self):
        usual = Limits()
        apertures = self._pair("apertures", parse_aperture) or (usual.f_min, usual.f_max)
        times = self._pair("shutters", parse_time) or (usual.time_min_s, usual.time_max_s)
        return Limits(*apertures, *times)

    def _pair(self, key, parse):
        texts = getattr(self.document.camera, key)
        if texts is None:
            return None
        ends = [
            self.attempt(f"camera.{key}[{k}]", parse, text, self.document.increment) for k, text in enumerate(texts)
        ]
        if None in ends:
            return None
        if ends[0].exact >= ends[1].exact:
            self.mistakes.append(f"camera.{key}: the first must be below the second.")
            return None
        return ends[0].exact, ends[1].exact


def zone_value(value):
    """A zone as a number or as people write it, within 0..10. Raises CoreError."""
    return parse_zone(value) if isinstance(value, str) else require_zone(value)
