from django.urls import path, re_path

from dimgrey.people import account_views, views

urlpatterns = [
    path("look", views.look, name="look"),
    path("phone", views.phone, name="phone"),
    path("phone/code-<slug:code>.svg", views.code_picture, name="code-picture"),
    path("phone/devices/<int:pk>/drop", views.drop_device, name="drop-device"),
    path("pair/", views.pair, name="pair-typed"),
    path("pair/<slug:code>", views.pair, name="pair"),
    path("sign-in", account_views.SignIn.as_view(), name="sign-in"),
    path("sign-out", account_views.sign_out, name="sign-out"),
    path("join/<str:secret>", account_views.join, name="join"),
    path("password/forgotten", account_views.Forgotten.as_view(), name="forgotten"),
    path("password/sent", account_views.forgotten_sent, name="forgotten-sent"),
    path("password/new/<uidb64>/<token>/", account_views.NewPassword.as_view(), name="new-password"),
    path("password/change", account_views.ChangePassword.as_view(), name="change-password"),
    path("account/", account_views.account, name="account"),
    path("account/delete", account_views.delete_account, name="delete-account"),
    path("account/ways/<int:pk>/end", account_views.end_way_in, name="end-way-in"),
    path("house/", account_views.house, name="house"),
    path("house/invite", account_views.invite, name="invite"),
    path("house/invitations/<int:pk>/withdraw", account_views.withdraw, name="withdraw"),
    re_path(
        r"^house/people/(?P<pk>[0-9]{1,18})/(?P<act>change|suspend|resume|link|delete)$",
        account_views.member,
        name="member",
    ),
]
