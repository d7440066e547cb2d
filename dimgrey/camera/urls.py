from django.urls import path, re_path

from dimgrey.camera import camera_views, setup_views, testshot_views, views

urlpatterns = [
    path("scenes/<int:pk>/filters", views.bench, name="bench"),
    path("scenes/<int:pk>/compare", views.compare, name="compare"),
    path("scenes/<int:pk>/camera", camera_views.camera, name="camera"),
    path("scenes/<int:pk>/camera/live", camera_views.live, name="camera-live"),
    path("scenes/<int:pk>/shoot", camera_views.shoot, name="shoot"),
    path("scenes/<int:pk>/shoot-bracket", camera_views.shoot_bracket, name="shoot-bracket"),
    path("scenes/<int:pk>/linear.tif", camera_views.raw_like, name="raw-like"),
    path("scenes/<int:pk>/test-shot", testshot_views.test_shot, name="test-shot"),
    path("outings/<int:pk>/setup/<int:setup_pk>", views.on_outing, name="setup-on-outing"),
    path("setups/", setup_views.index, name="setups"),
    path("setups/new", setup_views.new, name="new-setup"),
    path("setups/preview", setup_views.preview, name="setup-preview"),
    path("setups/look", setup_views.look, name="setup-look"),
    path("setups/import", setup_views.import_file, name="import-setup"),
    path("setups/<int:pk>/", setup_views.edit, name="setup"),
    path("setups/<int:pk>/remove", setup_views.remove, name="remove-setup"),
    path("setups/<int:pk>/carry", setup_views.carry, name="carry-setup"),
    path("setups/<int:pk>/menu", setup_views.menu_card, name="menu-card"),
    re_path(r"^setups/(?P<pk>[0-9]+)/setup\.(?P<kind>json|cube)$", setup_views.export, name="export-setup"),
]
