from django.urls import path

from dimgrey.safekeeping import views

urlpatterns = [
    path("health", views.health, name="health"),
    path("removed/free", views.free_removed, name="free-removed"),
]
