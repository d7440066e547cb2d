from django.urls import path

from dimgrey.practice import views

urlpatterns = [
    path("practice/", views.practice, name="practice"),
    path("practice/round", views.round_page, name="practice-round"),
    path("practice/answers", views.answers, name="practice-answers"),
]
