"""The acts of the desk as a table: verb -> (part of the sheet, form, what to do). One verb, one transaction."""

from dimgrey.scenes import actions as do
from dimgrey.scenes import forms


def _d(form, *names):
    return [form.cleaned_data[name] for name in names]


ACTS = {
    "pin": ("tones", forms.PinForm, lambda scene, f: do.pin_tone(scene, *_d(f, "stamp", "x", "y"))),
    "add-tone": (
        "tones",
        forms.AddToneForm,
        lambda scene, f: do.add_tone(scene, *_d(f, "stamp", "name", "reading")),
    ),
    "read": (
        "tones",
        forms.ReadingForm,
        lambda scene, f: do.type_reading(scene, *_d(f, "stamp", "mark", "reading", "replace", "others")),
    ),
    "unread": (
        "tones",
        forms.ReadingIndexForm,
        lambda scene, f: do.drop_reading(scene, *_d(f, "stamp", "mark", "index")),
    ),
    "tone": (
        "tones",
        forms.ToneForm,
        lambda scene, f: do.describe_tone(scene, *_d(f, "stamp", "mark"), **f.described()),
    ),
    "drop-tone": ("tones", forms.MarkForm, lambda scene, f: do.drop_tone(scene, *_d(f, "stamp", "mark"))),
    "place": ("placing", forms.PlaceForm, lambda scene, f: do.place_tone(scene, *_d(f, "stamp", "mark", "zone"))),
    "unplace": ("placing", forms.ActForm, lambda scene, f: do.unplace(scene, *_d(f, "stamp"))),
    "school": (
        "placing",
        forms.SchoolForm,
        lambda scene, f: do.choose_school(scene, *_d(f, "stamp", "school"), f.targets()),
    ),
    "filter": (
        "filter",
        forms.FilterForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "filter", filters=f.filters()),
    ),
    "setting": (
        "exposure",
        forms.SettingForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "aperture and shutter", camera=f.camera()),
    ),
    "camera": (
        "camera",
        forms.CameraForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "camera and medium", **f.parts()),
    ),
    "intent": (
        "intent",
        forms.IntentForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "intent", **f.parts()),
    ),
    "view": (
        "view",
        forms.ViewForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "view and light", **f.parts()),
    ),
    "kit": ("camera", forms.KitForm, lambda scene, f: do.use_kit(scene, f.cleaned_data["stamp"], f.names())),
    "kit-filter": ("filter", forms.KitFilterForm, lambda scene, f: do.use_kit_filter(scene, *_d(f, "stamp", "filter"))),
    "way-out": ("", forms.WayOutForm, lambda scene, f: do.take_way_out(scene, *_d(f, "stamp", "code"))),
    "bracket": (
        "bracket",
        forms.BracketForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "bracket", bracket=f.bracket()),
    ),
    "shift": ("tones", forms.ShiftForm, lambda scene, f: do.shift_light(scene, *_d(f, "stamp", "stops"))),
    "estimate": (
        "tones",
        forms.EstimateForm,
        lambda scene, f: do.estimate_tone(scene, *_d(f, "stamp", "name", "light")),
    ),
    "needs": (
        "needs",
        forms.NeedsForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "what matters", needs=f.needs()),
    ),
    "take": (
        "needs",
        forms.TakeForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "proposed setting", **f.parts()),
    ),
    "crop": ("crop", forms.CropForm, lambda scene, f: do.crop_picture(scene, *_d(f, "stamp"), f.crop)),
    "way": (
        "seeing",
        forms.WayForm,
        lambda scene, f: do.use_way(scene, *_d(f, "stamp", "way")),
    ),
    "pair": ("seeing", forms.PairForm, lambda scene, f: do.add_pair(scene, *_d(f, "stamp", "a", "b"))),
    "unpair": (
        "seeing",
        forms.ActForm,
        lambda scene, f: do.set_part(scene, *_d(f, "stamp"), "suggested pairs", pairs=None),
    ),
    "undo": ("", forms.ActForm, lambda scene, f: do.undo(scene, *_d(f, "stamp"))),
    "redo": ("", forms.ActForm, lambda scene, f: do.redo(scene, *_d(f, "stamp"))),
}
