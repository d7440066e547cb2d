"""What rooms above bring to the desk: pages that acts can be done from, and forms at the foot of the sheet."""

_PAGES = {}
_FOOT, _HELPS, _BESIDE = [], [], []


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


def add_to_helps(template):
    """A fragment among the keys and other help of the desk; it is given the scene."""
    _HELPS.append(template)


def add_beside(template, context):
    """A fragment that lies over the desk and comes anew with every act. context: situation -> what the template shows, None for nothing."""
    _BESIDE.append((template, context))


def beside(situation):
    """(template, what it shows) of each fragment over the desk that has something to show."""
    told = ((template, context(situation)) for template, context in _BESIDE)
    return tuple((template, shown) for template, shown in told if shown is not None)


def helps():
    """Templates of what is brought to the help of the desk."""
    return tuple(_HELPS)


def foot_of(situation, problem=None):
    """(template, what it shows) of each fragment at the foot."""
    return tuple((template, context(situation, problem)) for template, context in _FOOT)
