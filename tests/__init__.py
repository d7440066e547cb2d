"""Tests of Dimgrey. Laws are checked on many drawn cases; the first case may import a library, so no case has a deadline."""

from hypothesis import settings

settings.register_profile("dimgrey", deadline=None, database=None)
settings.load_profile("dimgrey")
