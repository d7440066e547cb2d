from django.urls import path

from dimgrey.judging.secondlook import views

urlpatterns = [
    path("second-look/", views.index, name="second-look"),
    path("second-look/new", views.new, name="new-batch"),
    path("second-look/<int:pk>/", views.show, name="batch"),
    path("second-look/<int:pk>/add", views.add, name="add-picture"),
    path("second-look/<int:pk>/remove", views.remove, name="remove-batch"),
    path("second-look/picture/<int:pk>/decide", views.decide, name="decide"),
]
