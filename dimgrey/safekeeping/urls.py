from django.urls import path

from dimgrey.safekeeping import views

urlpatterns = [
    path("health", views.health, name="health"),
    path("removed/", views.removed, name="removed"),
    path("removed/<slug:kind>/<int:pk>/back", views.bring_back_row, name="bring-back-row"),
    path("removed/free", views.free_removed, name="free-removed"),
]
