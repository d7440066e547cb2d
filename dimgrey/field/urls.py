from django.urls import path

from dimgrey.field import views

urlpatterns = [
    path("field/", views.page, name="field"),
    path("field/hello", views.hello, name="field-hello"),
    path("field/keeper.js", views.keeper, name="field-keeper"),
    path("field/outings/<int:pk>.json", views.outing, name="field-outing"),
    path("field/scenes/new", views.new_scene, name="field-new-scene"),
    path("field/scenes/<int:pk>/acts", views.acts, name="field-acts"),
    path("field/scenes/<int:pk>/known", views.known, name="field-known"),
    path("field/python-<str:version>/", views.python_folder, name="python-folder"),
    path("field/python-<str:version>/<str:name>", views.python_file, name="python-file"),
    path("field/core-<slug:version>.zip", views.core, name="core-zip"),
]
