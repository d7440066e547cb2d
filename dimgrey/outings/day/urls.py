from django.urls import path

from dimgrey.outings.day import views

urlpatterns = [
    path("", views.home, name="home"),
    path("outings/", views.older, name="outings"),
    path("outings/new", views.new, name="new-outing"),
    path("outings/<int:pk>/", views.outing, name="outing"),
    path("outings/<int:pk>/at", views.moment, name="outing-moment"),
    path("outings/<int:pk>/change", views.change, name="change-outing"),
    path("outings/<int:pk>/gpx", views.gpx, name="outing-gpx"),
    path("outings/<int:pk>/conditions", views.conditions, name="outing-conditions"),
    path("outings/<int:pk>/check", views.check, name="outing-check"),
    path("outings/<int:pk>/dismiss", views.dismiss, name="outing-dismiss"),
    path("outings/<int:pk>/order", views.order, name="outing-order"),
    path("outings/<int:pk>/again", views.again, name="outing-again"),
    path("outings/<int:pk>/remove", views.remove, name="remove-outing"),
    path("outings/<int:pk>/bring-back", views.bring_back, name="bring-back-outing"),
    path("outings/<int:pk>/light.ics", views.windows_file, name="outing-calendar"),
]
