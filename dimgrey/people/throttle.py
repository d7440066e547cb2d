"""How wrong passwords are slowed: by name and address; by name alone when very many addresses try one name."""

from axes.helpers import get_client_username, get_cool_off
from axes.models import AccessAttempt
from django.db.models import Sum
from django.utils import timezone

MOST_FOR_A_NAME = 50
"""Wrong passwords for one name, from wherever, until it waits for everybody: more than a person mistypes, far fewer than a guess takes."""
BY_ADDRESS = ["username", "ip_address"]


def slowed_by(request, credentials=None):
    """What failures are counted by, as django-axes asks for it. request: HttpRequest, or one of its own attempts; 1 query."""
    name = getattr(request, "username", None) or get_client_username(request, credentials)
    lately = AccessAttempt.objects.filter(username=name, attempt_time__gte=timezone.now() - get_cool_off(request))
    failed = lately.aggregate(all=Sum("failures_since_start"))["all"] or 0
    return [BY_ADDRESS, "username"] if failed >= MOST_FOR_A_NAME else [BY_ADDRESS]
