"""Template tags of every page: a form field with its label and sentence, hidden stamps, tokens that make a click count once."""

import uuid

from django import template
from django.forms import CheckboxInput, CheckboxSelectMultiple
from django.templatetags.static import static
from django.urls import reverse
from django.utils.html import format_html, format_html_join

register = template.Library()


@register.inclusion_tag("web/_field.html")
def field(bound, label=None):
    """A field of a form: label, widget and, under it, the sentence why it was refused. label: instead of the form's."""
    return {
        "bound": bound,
        "label": bound.label if label is None else label,
        "is_check": isinstance(bound.field.widget, CheckboxInput),
        "is_group": isinstance(bound.field.widget, CheckboxSelectMultiple),
    }


@register.simple_tag
def files(*names):
    """Styles and modules that a page asks for besides those of every page. names: of static files."""
    kinds = {"css": '<link rel="stylesheet" href="{}">', "js": '<script type="module" src="{}"></script>'}
    return format_html_join("", "{}", ((format_html(kinds[name.rpartition(".")[2]], static(name)),) for name in names))


@register.simple_tag
def where(title, above, name, *args):
    """The line at the head of a page that says where it is. above, name, args: words and address of what it belongs to."""
    return format_html('<span><a href="{}">{}</a> / <strong>{}</strong></span>', reverse(name, args=args), above, title)


@register.filter
def item(values, key):
    """The value of a dictionary under a key that is known to the template only."""
    return values.get(key)


@register.simple_tag
def stamp(situation, **values):
    """Hidden inputs of an act: the state that the page shows, and what else the act needs, such as mark="A"."""
    hidden = {"stamp": situation.stamp, **values}
    return format_html(
        "{}" * len(hidden),
        *(format_html('<input type="hidden" name="{}" value="{}">', name, value) for name, value in hidden.items()),
    )


@register.simple_tag
def once(name="token"):
    """A hidden token: the same form sent twice counts once."""
    return format_html('<input type="hidden" name="{}" value="{}">', name, uuid.uuid4())
