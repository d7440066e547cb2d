"""Every address of the site."""

from django.http import HttpResponse
from django.urls import include, path

urlpatterns = [
    path("", include("dimgrey.outings.day.urls")),
    path("", include("dimgrey.pictures.urls")),
    path("", include("dimgrey.scenes.urls")),
    path("", include("dimgrey.paper.urls")),
    path("", include("dimgrey.camera.urls")),
    path("", include("dimgrey.frames.urls")),
    path("", include("dimgrey.results.urls")),
    path("", include("dimgrey.finishing.urls")),
    path("", include("dimgrey.judging.pick.urls")),
    path("", include("dimgrey.judging.studies.urls")),
    path("", include("dimgrey.practice.urls")),
    path("", include("dimgrey.lamps.urls")),
    path("", include("dimgrey.book.urls")),
    path("", include("dimgrey.kit.urls")),
    path("", include("dimgrey.judging.secondlook.urls")),
    path("", include("dimgrey.field.urls")),
    path("", include("dimgrey.people.urls")),
    path("", include("dimgrey.safekeeping.archive.urls")),
    path("", include("dimgrey.safekeeping.urls")),
    path("empty", lambda request: HttpResponse(b"ok"), name="empty"),
]

handler404 = "dimgrey.site.views.not_found"
handler500 = "dimgrey.site.views.failed"
