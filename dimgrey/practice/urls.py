from django.urls import path

from dimgrey.practice import views

urlpatterns = [
    path("practice/", views.practice, name="practice"),
    path("practice/round", views.round_page, name="practice-round"),
    path("practice/service-worker.js", views.service_worker, name="practice-service-worker"),
    path("practice/keeper.js", views.service_worker),  # where browsers that know an older page ask for a newer one
    path("practice/answers", views.answers, name="practice-answers"),
    path("practice/week", views.week, name="practice-week"),
    path("practice/month", views.month, name="practice-month"),
    path("practice/month/begin", views.begin_month, name="practice-begin-month"),
    path("practice/tasks/<int:pk>/give", views.give, name="practice-give"),
    path("practice/tasks/<int:pk>/take-back", views.take_back, name="practice-take-back"),
    path("practice/patterns", views.patterns, name="practice-patterns"),
    path("practice/first", views.first_steps, name="first-steps"),
]
