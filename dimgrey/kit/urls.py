from django.urls import path

from dimgrey.kit import calibration_views, views

urlpatterns = [
    path("kit/", views.index, name="kit"),
    path("kit/new/<slug:kind>", views.new, name="new-item"),
    path("kit/kit.json", views.export, name="export-kit"),
    path("kit/import", views.import_kit, name="import-kit"),
    path("kit/<int:pk>/", views.edit, name="kit-item"),
    path("kit/<int:pk>/duplicate", views.duplicate, name="duplicate-item"),
    path("kit/<int:pk>/retire", views.retire, name="retire-item"),
    path("kit/<int:pk>/calibrate", calibration_views.calibrate, name="calibrate"),
]
