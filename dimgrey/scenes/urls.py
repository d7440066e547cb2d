from django.urls import path, re_path

from dimgrey.scenes import card, means_views, views
from dimgrey.scenes.rendering import KEY

urlpatterns = [
    path("scenes/new", views.new, name="new-scene"),
    path("scenes/import", views.import_file, name="import-scene"),
    path("scenes/<int:pk>/", views.show, name="desk"),
    path("scenes/<int:pk>/do/<slug:verb>", views.act, name="act"),
    path("scenes/<int:pk>/edit/<slug:part>", views.edit, name="edit"),
    path("scenes/<int:pk>/sight", views.sight, name="sight"),
    re_path(rf"^scenes/(?P<pk>[0-9]+)/grey-(?P<key>{KEY})\.jpg$", views.grey, name="grey"),
    re_path(rf"^scenes/(?P<pk>[0-9]+)/contours-(?P<key>{KEY})\.svg$", views.contour_map, name="contours"),
    path("scenes/<int:pk>/<slug:kind>-over.svg", views.over, name="over"),
    path("scenes/<int:pk>/export/<str:name>", views.export, name="export"),
    path("scenes/<int:pk>/colour-<uuid:folder>.jpg", views.colour, name="colour"),
    path("scenes/<int:pk>/picture", views.replace_picture, name="replace-picture"),
    path("scenes/<int:pk>/remove", views.remove, name="remove-scene"),
    path("scenes/<int:pk>/bring-back", views.bring_back, name="bring-back"),
    path("scenes/<int:pk>/scene.json", views.scene_file, name="scene-file"),
    path("scenes/<int:pk>/filters", means_views.bench, name="bench"),
    path("scenes/<int:pk>/use-way", means_views.use_way, name="use-way"),
    path("scenes/<int:pk>/take-advice", means_views.take_advice, name="take-advice"),
    path("scenes/<int:pk>/compare", means_views.compare, name="compare"),
    path("scenes/<int:pk>/keep-setup", means_views.keep_setup, name="keep-setup"),
    path("scenes/<int:pk>/camera", means_views.camera, name="camera"),
    path("scenes/<int:pk>/shoot", means_views.shoot, name="shoot"),
    path("scenes/<int:pk>/shoot-bracket", means_views.shoot_bracket, name="shoot-bracket"),
    path("scenes/<int:pk>/linear.tif", means_views.raw_like, name="raw-like"),
    path("scenes/<int:pk>/test-shot", means_views.test_shot, name="test-shot"),
    path("outings/<int:pk>/setup/<int:setup_pk>", means_views.on_outing, name="setup-on-outing"),
    path("scenes/<int:pk>/card", card.page, name="card"),
    path("scenes/<int:pk>/card.pdf", card.pdf, name="card-pdf"),
]
