from django.urls import path

from dimgrey.outings import views

urlpatterns = [
    path("", views.home, name="home"),
    path("outings/new", views.new, name="new-outing"),
]
