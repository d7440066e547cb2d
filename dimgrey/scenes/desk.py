"""The scene desk: stage, rail and sheet of one scene, ready for the templates."""

from functools import cached_property, lru_cache

from django.template.loader import render_to_string
from django.urls import reverse

from dimgrey.core.document.lightscale import ring_radius
from dimgrey.core.measure.stops import INCREMENTS
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.picture.crop import guide_lines
from dimgrey.core.planning.planwords import APART
from dimgrey.core.planning.separation import candidate_chains
from dimgrey.pictures.addresses import addresses_squeezed, addresses_through, key_of
from dimgrey.scenes.dragging import graduated_edge, live_of
from dimgrey.scenes.histogram import hill_path
from dimgrey.scenes.pages import beside, foot_of, helps
from dimgrey.scenes.queries import can_undo, newest_child
from dimgrey.scenes.rail import SHORT, empty_rail, place_percent, rail_of
from dimgrey.scenes.sheet.bracket import bracket_lines
from dimgrey.scenes.sheet.page import shown_parts
from dimgrey.scenes.sheet.picture import asks_light, scale_line
from dimgrey.scenes.sheet.registry import part_named
from dimgrey.scenes.situation import Situation

MOST_WISHES = 4
"""Rows of wished spans that the rail has room for."""


@lru_cache(maxsize=256)
def _pins(places):
    """Pins stay where they are through most acts. places: (mark, x, y, placed) of each."""
    pins = [dict(zip(("mark", "x", "y", "placed", "area"), place, strict=True)) for place in places]
    return render_to_string("scenes/_pins.html", {"pins": pins})


class Desk:
    """Everything the desk's fragments need, each thing made when a fragment asks for it.

    problem: a Problem or None. opened: ids of the editors that are open. child: the Revision that redo goes to, or None.
    """

    short = SHORT

    def __init__(self, situation, problem=None, opened=(), child=None):
        self.situation = situation
        self.scene = situation.scene
        self.picture = situation.picture
        self.problem = problem
        self.opened = opened
        self.child = child

    @property
    def asks_light(self):
        return asks_light(self.situation)

    @property
    def stamp(self):
        return self.scene.stamp

    @property
    def plan(self):
        return self.situation.plan

    @property
    def wait(self):
        return self.situation.wait

    @property
    def notice(self):
        """A sentence that belongs to no editor of the sheet, shown on top."""
        if self.problem is None:
            return ""
        part = part_named(self.problem.part)
        elsewhere = self.problem.part and part is None  # the foot says its own
        has_editor = part is not None and part.editor is not None and part.shown(self.situation)
        return "" if not self.problem.notice and (elsewhere or has_editor) else self.problem.message

    @cached_property
    def parts(self):
        return shown_parts(self.situation, self.problem, self.opened)

    @property
    def tones(self):
        return self.situation.tone_rows

    def _usual(self, row):
        """Where a surface of a tone's name usually goes, for the pad: "usually VII, +2"; "" when the name means none."""
        surface = surface_named(row.name, self.situation.own_surfaces)
        if surface is None or "name" in row.entry.guessed:
            return ""
        return "usually {}, {}".format(*self.situation.words.surface(surface))

    def _blind(self, row):
        """Why the picture does not say how light a tone is, "" where it does or a meter has."""
        read = next((tone for tone in self.situation.brief.tones if tone.name == row.name), None)
        if read is None or not (read.blocked or read.clipped):
            return ""
        shows, other = ("black", "lighter") if read.blocked else ("blank", "darker")
        return f"The picture is {shows} here. Read it with a meter, or touch a {other} place."

    @property
    def pins(self):
        """Markup of the pins on the stage."""
        return _pins(tuple((tone.mark, tone.x, tone.y, tone.placed, tone.area) for tone in self.tones if tone.x))

    @cached_property
    def rail(self):
        words, result = self.situation.words, self.plan
        if result is None:
            return empty_rail(self.situation.brief.medium, words, self.short)
        return rail_of(result, self.situation.document.marks, words, self.short)

    @cached_property
    def wish_spans(self):
        """Spans of the rail where tones are wished that do not print there yet, in rows under each other."""
        prints = {tone.name: tone.printed for tone in self.plan.tones} if self.plan else {}
        missed = [w for w in self.situation.wishes if w.span and (w.missed_by(prints) or 0) > APART][:MOST_WISHES]
        return tuple(
            {
                "x": f"{place_percent(wish.span[0]):.2f}%",
                "width": f"{place_percent(wish.span[1]) - place_percent(wish.span[0]):.2f}%",
                "y": 40 - 7 * k,
                "mark": self.situation.document.marks[wish.tones[0]],
                "guessed": wish.guessed,
                "words": f"wished: {wish.words}",
            }
            for k, wish in enumerate(missed)
        )

    @cached_property
    def hill(self):
        """SVG path of the picture's own tones over the ground, "" without a picture or a plan."""
        return hill_path(self.situation, self.situation.fall_counts)

    @cached_property
    def bracket_bars(self):
        """Bars on the rail, one for each frame of the bracket: what it holds well."""
        frames = bracket_lines(self.situation)
        return tuple(
            {
                **frame._asdict(),
                "x": f"{place_percent(low):.2f}%",
                "width": f"{place_percent(high) - place_percent(low):.2f}%",
                "y": round(2 + 18 * k / len(frames), 1),
            }
            for k, frame in enumerate(frames)
            for low, high in [frame.zones]
        )

    @property
    def beside(self):
        return beside(self.situation)

    @property
    def helps(self):
        return helps()

    @property
    def foot(self):
        return foot_of(self.situation, self.problem)

    @property
    def crop(self):
        return self.situation.document.crop

    @property
    def graduated_edge(self):
        """Where the edge of graduated glass is drawn over the picture, None without one."""
        edge = graduated_edge(self.situation.document) if self.picture else None
        return None if edge is None else {"y": f"{edge * 100:.2f}%", "percent": round(edge * 100)}

    @property
    def guides(self):
        """Guide lines of the crop, in percent of its sides."""
        kind = self.crop.guides if self.crop else "none"
        return [f"{line * 100:.2f}%" for line in guide_lines(kind)] if kind in ("thirds", "golden") else []

    @property
    def scale_line(self):
        return scale_line(self.situation)

    @cached_property
    def choices(self):
        """Name -> address of this view through every filter or mix of the medium, to compare."""
        if not self.picture:
            return {}
        brief = self.situation.brief
        chains = candidate_chains(brief.medium, brief.light)
        return addresses_through(self.picture.folder, self.situation.rendering, chains)

    @property
    def contours(self):
        """Address of the tone map over the picture."""
        if not self.picture:
            return ""
        medium = self.situation.brief.medium
        low, high = medium.prints_of(medium.outer)
        address = reverse("contours", args=[self.picture.folder, key_of(self.situation.rendering)])
        return f"{address}?low={low:g}&high={high:g}"

    @property
    def can_undo(self):
        return can_undo(self.scene)

    @property
    def for_scripts(self):
        """What the scripts move things with; every number in it was computed here."""
        pk, situation = self.scene.pk, self.situation
        crop = self.crop
        return {
            "stamp": self.stamp,
            "act": reverse("act", args=[pk, "VERB"]),
            "edit": reverse("edit", args=[pk, "PART"]),
            "sight": reverse("sight", args=[pk]),
            "card": reverse("card", args=[pk]),
            "grey": situation.grey,
            "light": f"/pictures/{self.picture.folder}/light-SIDE.bin" if self.picture else "",
            "live": live_of(situation),
            "colour": situation.colour,
            "ring": round(ring_radius(situation.document, situation.facts), 5) if self.picture else 0,
            "looks": addresses_squeezed(self.picture.folder, situation.rendering) if self.picture else {},
            "contours": self.contours,
            "over": reverse("over", args=[pk, "KIND"]) if self.picture else "",
            "choices": self.choices,
            "crop": {"box": crop.box, "ratio": crop.ratio, "upright": crop.upright} if crop else None,
            "greys": dict(zip(("reach", "outer"), self.rail.base.greys, strict=True)),
            "steps": INCREMENTS[situation.document.increment],
            "canUndo": self.can_undo,
            "canRedo": self.child is not None,
            "undoLabel": self.scene.head.label if self.scene.head else "",
            "redoLabel": self.child.label if self.child else "",
            "scaleLine": self.scale_line,
            "tones": [
                {"mark": t.mark, "name": t.name, "ev": t.ev, "usual": self._usual(t), "blind": self._blind(t)}
                for t in self.tones
            ],
        }


def desk_of(scene, labels="zones", problem=None, opened=(), redo_known=True):
    """The desk of a scene. labels: the person's tone labels. opened: ids of the parts that are open for editing.

    Costs 1 query (what redo would do), none when `redo_known` is False because the newest state was just made.
    """
    child = newest_child(scene) if redo_known else None
    return Desk(Situation(scene, labels), problem, opened, child)
