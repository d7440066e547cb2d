from django.urls import path

from dimgrey.frames import views

urlpatterns = [
    path("frames/", views.index, name="frames"),
    path("frames.csv", views.as_csv, name="frames-csv"),
    path("frames/import", views.import_csv, name="import-frames"),
    path("frames/<int:pk>/", views.show, name="frame"),
    path("scenes/<int:pk>/log", views.log, name="log"),
]
