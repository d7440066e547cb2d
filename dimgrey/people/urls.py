from django.contrib.auth import views as auth
from django.urls import path

from dimgrey.people import views

urlpatterns = [
    path("look", views.look, name="look"),
    path("sign-in", auth.LoginView.as_view(template_name="people/sign_in.html"), name="sign-in"),
    path("sign-out", auth.LogoutView.as_view(), name="sign-out"),
]
