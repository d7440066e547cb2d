from django.urls import path

from dimgrey.judging.pick import views

urlpatterns = [
    path("picks/", views.picks, name="picks"),
    path("picks/begin", views.begin, name="begin-pick"),
    path("picks/<int:pk>/", views.pick, name="pick"),
    path("picks/<int:pk>/subject", views.subject, name="pick-subject"),
    path("picks/<int:pk>/decide", views.decide, name="decide-pick"),
    path("picks/<int:pk>/drop", views.drop, name="drop-pick"),
    path("picks/<int:pk>/over-<int:candidate>.jpg", views.over, name="pick-over"),
]
