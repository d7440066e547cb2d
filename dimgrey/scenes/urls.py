from django.urls import path

from dimgrey.scenes import act_views, views

urlpatterns = [
    path("scenes/new", views.new, name="new-scene"),
    path("scenes/import", views.import_file, name="import-scene"),
    path("scenes/<int:pk>/", views.show, name="desk"),
    path("scenes/<int:pk>/do", act_views.acts, name="acts"),
    path("scenes/<int:pk>/do/<slug:verb>", act_views.act, name="act"),
    path("scenes/<int:pk>/edit/<slug:part>", views.edit, name="edit"),
    path("scenes/<int:pk>/nearer", views.nearer, name="nearer"),
    path("scenes/<int:pk>/sight", views.sight, name="sight"),
    path("pictures/<uuid:folder>/contours-<key:key>.svg", views.contour_map, name="contours"),
    path("scenes/<int:pk>/<slug:kind>-over.svg", views.over, name="over"),
    path("scenes/<int:pk>/export/<str:name>", views.export, name="export"),
    path("scenes/<int:pk>/picture", views.replace_picture, name="replace-picture"),
    path("scenes/<int:pk>/remove", views.remove, name="remove-scene"),
    path("scenes/<int:pk>/bring-back", views.bring_back, name="bring-back"),
    path("scenes/<int:pk>/scene.json", views.scene_file, name="scene-file"),
]
