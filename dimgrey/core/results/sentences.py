"""A miss in sentences: what it is, how large, how sure, and what to change next time. One truth for pages, log and files."""

from dimgrey.core.results.causes.cause import cause_of

AS_PLANNED = "As planned."


def told(miss, shot):
    """Said of each part of a Miss, () when all is as planned. shot: Shot."""
    return tuple(cause_of(part.kind).said(part, shot) for part in miss.parts)


def unexplained_stops(miss, shot):
    """Exposure that neither plan nor log account for, stops; + is lighter. miss: Miss. shot: Shot.

    None for a result that does not tell the exposure.
    """
    return round(miss.a - shot.set_stops, 4) if shot.tells_exposure else None
