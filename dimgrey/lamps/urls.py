from django.urls import path

from dimgrey.lamps import views

urlpatterns = [
    path("scenes/<int:pk>/light-plan", views.light_plan, name="light-plan"),
    path("scenes/<int:pk>/light-plan/preview-<slug:version>.jpg", views.preview, name="light-preview"),
    path("scenes/<int:pk>/light-plan/kept-<int:number>-<slug:version>.jpg", views.kept_preview, name="light-kept"),
    path("scenes/<int:pk>/light-plan/picture", views.take_picture, name="light-picture"),
    path("scenes/<int:pk>/light-plan/compare", views.compare, name="light-compare"),
    path("scenes/<int:pk>/light-plan.pdf", views.card_pdf, name="light-card"),
]
