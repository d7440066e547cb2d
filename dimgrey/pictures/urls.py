from django.urls import path, register_converter

from dimgrey.core.errors import CoreError
from dimgrey.pictures import views
from dimgrey.pictures.addresses import KEY, SKY_AREA, area_of, rendering_of


class KeyConverter:
    """The part of an address that says how a grey view is made."""

    regex = KEY
    reads = staticmethod(rendering_of)

    def to_python(self, value):
        """The text as it is. Raises ValueError, which is a page that is not there, for one that says no view."""
        try:
            self.reads(value)
        except CoreError as refused:
            raise ValueError(str(refused)) from None
        return value

    def to_url(self, value):
        return value


class SkyConverter(KeyConverter):
    """The part of an address that says where a picture's sky is."""

    regex = SKY_AREA
    reads = staticmethod(area_of)


register_converter(KeyConverter, "key")
register_converter(SkyConverter, "sky")

urlpatterns = [
    path("pictures/room", views.room, name="room"),
    path("pictures/arriving/<slug:purpose>/<int:subject>", views.arriving, name="arriving"),
    path("pictures/arriving/<int:pk>/put-away", views.put_away, name="put-away"),
    path("pictures/<uuid:folder>/grey-<key:key>.jpg", views.grey, name="grey"),
    path("pictures/paint-<key:key>.json", views.paint, name="paint"),
    path("pictures/<uuid:folder>/light-<int:side>.bin", views.light_map, name="light-map"),
    path("pictures/<uuid:folder>/sky-<int:side>-<sky:area>.bin", views.sky_map, name="sky-map"),
    path("pictures/<uuid:folder>/colour.jpg", views.kept, {"name": "colour"}, name="colour"),
    path("pictures/<uuid:folder>/grey.jpg", views.kept, {"name": "grey"}, name="kept-grey"),
]
