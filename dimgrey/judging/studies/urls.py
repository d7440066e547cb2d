from django.urls import path

from dimgrey.judging.studies import views

urlpatterns = [
    path("studies/", views.studies, name="studies"),
    path("studies/<int:pk>/", views.study, name="study"),
    path("studies/<int:pk>/add", views.add, name="study-add"),
    path("studies/<int:pk>/scenes", views.add_scenes, name="study-scenes"),
    path("studies/<int:pk>/change", views.change, name="study-change"),
    path("studies/<int:pk>/frame", views.frame, name="study-frame"),
    path("studies/<int:pk>/remove", views.remove, name="study-remove"),
    path("studies/<int:pk>/<int:light>/time", views.time, name="study-time"),
    path("studies/<int:pk>/<int:light>/drop", views.drop, name="study-drop"),
    path("studies/<int:pk>/<int:light>/choose", views.choose, name="study-choose"),
    path("studies/<int:pk>/<int:light>-<int:version>.jpg", views.picture, name="study-picture"),
]
