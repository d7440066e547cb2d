from django.urls import path

from dimgrey.frames import views

urlpatterns = [
    path("frames/", views.index, name="frames"),
    path("frames.csv", views.as_csv, name="frames-csv"),
    path("frames/import", views.import_csv, name="import-frames"),
    path("frames/several", views.several, name="several-frames"),
    path("frames/back/<uuid:act>", views.put_several_back, name="put-several-back"),
    path("frames/<int:pk>/", views.show, name="frame"),
    path("frames/<int:pk>/place", views.place, name="place-frame"),
    path("frames/<int:pk>/strike", views.strike, name="strike-frame"),
    path("frames/<int:pk>/back", views.put_back, name="put-frame-back"),
    path("rolls/begin", views.begin_roll, name="begin-roll"),
    path("rolls/<int:pk>/", views.roll, name="roll"),
    path("rolls/<int:pk>/end", views.end_roll, name="end-roll"),
    path("scenes/<int:pk>/log", views.log, name="log"),
]
