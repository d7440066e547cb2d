from django.urls import path

from dimgrey.results import learning_views, views

urlpatterns = [
    path("frames/<int:pk>/results", views.add, name="add-results"),
    path("results/<int:pk>/", views.show, name="result"),
    path("results/<int:pk>/lay", views.lay, name="lay-result"),
    path("results/<int:pk>/again", views.again, name="result-again"),
    path("results/<int:pk>/kind", views.kind, name="result-kind"),
    path("results/<int:pk>/remove", views.remove, name="remove-result"),
    path("results/<int:pk>/over-<int:version>.jpg", views.over, name="result-over"),
    path("results/<int:pk>/own.jpg", views.own, name="result-own"),
    path("results/<int:pk>/small.jpg", views.small, name="result-small"),
    path("results/<int:pk>/difference-<int:version>", views.difference, name="result-difference"),
    path("learn/", learning_views.learn, name="learn"),
    path("learn/apply", learning_views.apply, name="apply-correction"),
    path("learn/corrections/<int:pk>/undo", learning_views.undo, name="undo-correction"),
]
