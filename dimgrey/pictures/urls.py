from django.urls import path, register_converter

from dimgrey.pictures import views
from dimgrey.pictures.addresses import KEY, SKY_AREA


class KeyConverter:
    """The part of an address that says how a grey view is made."""

    regex = KEY

    def to_python(self, value):
        return value

    def to_url(self, value):
        return value


class SkyConverter(KeyConverter):
    """The part of an address that says where a picture's sky is."""

    regex = SKY_AREA


register_converter(KeyConverter, "key")
register_converter(SkyConverter, "sky")

urlpatterns = [
    path("pictures/<uuid:folder>/grey-<key:key>.jpg", views.grey, name="grey"),
    path("pictures/paint-<key:key>.json", views.paint, name="paint"),
    path("pictures/<uuid:folder>/light-<int:side>.bin", views.light_map, name="light-map"),
    path("pictures/<uuid:folder>/sky-<int:side>-<sky:area>.bin", views.sky_map, name="sky-map"),
    path("pictures/<uuid:folder>/colour.jpg", views.kept, {"name": "colour"}, name="colour"),
    path("pictures/<uuid:folder>/grey.jpg", views.kept, {"name": "grey"}, name="kept-grey"),
]
