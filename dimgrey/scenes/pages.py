"""What rooms above bring to the desk: pages that acts can be done from, and forms at the foot of the sheet."""

_PAGES = {}
_FOOT = []


def add_page(name, address, render):
    """name: as the form says it. address: name of its URL. render: (request, scene, sentence, status) -> response.

    A refused act is shown on the page where it was done.
    """
    _PAGES[name] = (address, render)


def page_named(name):
    """(address, render) of a page, or None for the desk and unknown names."""
    return _PAGES.get(name)


def add_to_foot(template, context):
    """A fragment at the foot of the sheet. context: (situation, problem) -> what the template shows."""
    _FOOT.append((template, context))


def foot_of(situation, problem=None):
    """(template, what it shows) of each fragment at the foot."""
    return tuple((template, context(situation, problem)) for template, context in _FOOT)
