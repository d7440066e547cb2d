from django.urls import path, register_converter

from dimgrey.pictures import views
from dimgrey.pictures.addresses import KEY


class KeyConverter:
    """The part of an address that says how a grey view is made."""

    regex = KEY

    def to_python(self, value):
        return value

    def to_url(self, value):
        return value


register_converter(KeyConverter, "key")

urlpatterns = [
    path("pictures/<uuid:folder>/grey-<key:key>.jpg", views.grey, name="grey"),
    path("pictures/<uuid:folder>/colour.jpg", views.kept, {"name": "colour"}, name="colour"),
    path("pictures/<uuid:folder>/grey.jpg", views.kept, {"name": "grey"}, name="kept-grey"),
]
