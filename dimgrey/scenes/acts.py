"""The acts of the desk as a table: verb -> (part of the sheet, form, what to do). One verb, one transaction."""

from dimgrey.scenes import actions as do
from dimgrey.scenes import forms


def _d(form, *names):
    return [form.cleaned_data[name] for name in names]


ACTS = {
    "pin": ("tones", forms.PinForm, lambda who, pk, f: do.pin_tone(who, pk, *_d(f, "stamp", "x", "y"))),
    "add-tone": ("tones", forms.AddToneForm, lambda who, pk, f: do.add_tone(who, pk, *_d(f, "stamp", "name", "reading"))),
    "read": ("tones", forms.ReadingForm, lambda who, pk, f: do.type_reading(who, pk, *_d(f, "stamp", "mark", "reading", "replace"))),
    "unread": ("tones", forms.ReadingIndexForm, lambda who, pk, f: do.drop_reading(who, pk, *_d(f, "stamp", "mark", "index"))),
    "tone": ("tones", forms.ToneForm, lambda who, pk, f: do.describe_tone(who, pk, *_d(f, "stamp", "mark"), **f.described())),
    "drop-tone": ("tones", forms.MarkForm, lambda who, pk, f: do.drop_tone(who, pk, *_d(f, "stamp", "mark"))),
    "place": ("placing", forms.PlaceForm, lambda who, pk, f: do.place_tone(who, pk, *_d(f, "stamp", "mark", "zone"))),
    "unplace": ("placing", forms.ActForm, lambda who, pk, f: do.unplace(who, pk, *_d(f, "stamp"))),
    "school": ("placing", forms.SchoolForm, lambda who, pk, f: do.choose_school(who, pk, *_d(f, "stamp", "school", "hold"))),
    "filter": ("filter", forms.FilterForm, lambda who, pk, f: do.set_part(who, pk, *_d(f, "stamp"), "filter", filters=f.filters())),
    "setting": ("exposure", forms.SettingForm, lambda who, pk, f: do.set_part(who, pk, *_d(f, "stamp"), "aperture and shutter", camera=f.camera())),
    "camera": ("camera", forms.CameraForm, lambda who, pk, f: do.set_part(who, pk, *_d(f, "stamp"), "camera and medium", **f.parts())),
    "intent": ("intent", forms.IntentForm, lambda who, pk, f: do.set_part(who, pk, *_d(f, "stamp"), "intent", title=f.cleaned_data["title"], intent=f.cleaned_data["intent"])),
    "undo": ("", forms.ActForm, lambda who, pk, f: do.undo(who, pk, *_d(f, "stamp"))),
    "redo": ("", forms.ActForm, lambda who, pk, f: do.redo(who, pk, *_d(f, "stamp"))),
}
