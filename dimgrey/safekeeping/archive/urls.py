from django.urls import path

from dimgrey.safekeeping.archive import views

urlpatterns = [
    path("account/archive.zip", views.save, name="save-archive"),
    path("account/archive", views.page, name="archive"),
    path("account/archive/take", views.take, name="take-archive"),
]
