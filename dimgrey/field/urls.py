from django.urls import path

from dimgrey.field import views

urlpatterns = [
    path("field/", views.page, name="field"),
    path("field/hello", views.hello, name="field-hello"),
    path("field/service-worker.js", views.service_worker, name="field-service-worker"),
    path("field/keeper.js", views.service_worker),  # where phones that know an older page ask for a newer one
    path("field/outings/<int:pk>.json", views.outing, name="field-outing"),
    path("field/scenes/new", views.new_scene, name="field-new-scene"),
    path("field/scenes/<int:pk>/acts", views.acts, name="field-acts"),
    path("field/scenes/<int:pk>/known", views.known, name="field-known"),
    path("field/worker-<slug:version>.js", views.worker, name="field-worker"),
    path("field/python-<str:version>/", views.python_folder, name="python-folder"),
    path("field/python-<str:version>/<str:name>", views.python_file, name="python-file"),
    path("field/core-<slug:version>.zip", views.core, name="core-zip"),
]
