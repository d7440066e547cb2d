"""What rooms above bring to the log: a section of a frame's page, and what stands beside each frame of the list."""

_SECTIONS, _BESIDE, _LINKS = [], [], []


def add_link(address, words):
    """A page that the list of frames leads to. address: name of its URL."""
    _LINKS.append((address, words))


def links():
    """(name of a URL, words) of the pages that the list leads to."""
    return tuple(_LINKS)


def add_section(template, context):
    """A section of a frame's page. context: (request, frame) -> what the template shows."""
    _SECTIONS.append((template, context))


def sections_of(request, frame):
    """(template, what it shows) of each section of a frame's page."""
    return tuple((template, context(request, frame)) for template, context in _SECTIONS)


def add_beside(told):
    """What stands beside frames in the list. told: list of frames -> {frame id: dictionary}."""
    _BESIDE.append(told)


def beside(frames):
    """{frame id: dictionary} of what rooms above tell of frames."""
    found = {frame.pk: {} for frame in frames}
    for told in _BESIDE:
        for pk, more in told(frames).items():
            found[pk].update(more)
    return found
