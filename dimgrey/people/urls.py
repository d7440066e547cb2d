from django.contrib.auth import views as auth
from django.urls import path

from dimgrey.people import views

urlpatterns = [
    path("look", views.look, name="look"),
    path("phone", views.phone, name="phone"),
    path("phone/code-<slug:code>.svg", views.code_picture, name="code-picture"),
    path("phone/devices/<int:pk>/drop", views.drop_device, name="drop-device"),
    path("pair/", views.pair, name="pair-typed"),
    path("pair/<slug:code>", views.pair, name="pair"),
    path("sign-in", auth.LoginView.as_view(template_name="people/sign_in.html"), name="sign-in"),
    path("sign-out", auth.LogoutView.as_view(), name="sign-out"),
]
