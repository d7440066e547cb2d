"""What rooms above bring to home."""

_ON_HOME = []


def add_to_home(template, context):
    """A fragment on home, below what is next. context: person -> what the template shows, None for nothing."""
    _ON_HOME.append((template, context))


def on_home(person):
    """(template, what it shows) of each fragment that has something to show."""
    told = ((template, context(person)) for template, context in _ON_HOME)
    return tuple((template, shown) for template, shown in told if shown is not None)
