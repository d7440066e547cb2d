from django.urls import path, re_path

from dimgrey.kit import calibration_views, setup_views, views

urlpatterns = [
    path("kit/", views.index, name="kit"),
    path("kit/new/<slug:kind>", views.new, name="new-item"),
    path("kit/kit.json", views.export, name="export-kit"),
    path("kit/import", views.bring_in, name="import-kit"),
    path("kit/<int:pk>/", views.edit, name="kit-item"),
    path("kit/<int:pk>/duplicate", views.duplicate, name="duplicate-item"),
    path("kit/<int:pk>/retire", views.retire, name="retire-item"),
    path("kit/<int:pk>/calibrate", calibration_views.calibrate, name="calibrate"),
    path("setups/", setup_views.index, name="setups"),
    path("setups/new", setup_views.new, name="new-setup"),
    path("setups/preview", setup_views.preview, name="setup-preview"),
    path("setups/import", setup_views.bring_in, name="import-setup"),
    path("setups/<int:pk>/", setup_views.edit, name="setup"),
    path("setups/<int:pk>/carry", setup_views.carry, name="carry-setup"),
    path("setups/<int:pk>/menu", setup_views.menu_card, name="menu-card"),
    re_path(r"^setups/(?P<pk>[0-9]+)/setup\.(?P<kind>json|cube)$", setup_views.export, name="export-setup"),
]
