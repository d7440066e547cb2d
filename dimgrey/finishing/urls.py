from django.urls import path, re_path

from dimgrey.finishing import views

urlpatterns = [
    path("results/<int:pk>/finish", views.finish, name="finish"),
    path("results/<int:pk>/finish/preview", views.preview, name="finish-preview"),
    path("results/<int:pk>/finish/picture.jpg", views.picture, name="finish-picture"),
    path("results/<int:pk>/finish/area", views.add_area, name="finish-area"),
    path("results/<int:pk>/finish/area/<int:number>/remove", views.remove_area, name="finish-area-remove"),
    path("results/<int:pk>/finish/undo", views.undo, name="finish-undo"),
    path("results/<int:pk>/finish/propose", views.propose, name="finish-propose"),
    path("results/<int:pk>/finish/import", views.import_finish, name="finish-import"),
    path("results/<int:pk>/finish/print", views.printing, name="finish-printing"),
    re_path(r"^results/(?P<pk>\d{1,9})/finish\.(?P<kind>json|cube|tif|pdf|svg)$", views.export, name="finish-export"),
]
