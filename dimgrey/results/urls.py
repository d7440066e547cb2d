from django.urls import path, re_path

from dimgrey.results import finish_views, learning_views, pick_views, views

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
    path("results/<int:pk>/finish", finish_views.finish, name="finish"),
    path("results/<int:pk>/finish/preview", finish_views.preview, name="finish-preview"),
    path("results/<int:pk>/finish/picture.jpg", finish_views.picture, name="finish-picture"),
    path("results/<int:pk>/finish/area", finish_views.add_area, name="finish-area"),
    path("results/<int:pk>/finish/area/<int:number>/remove", finish_views.remove_area, name="finish-area-remove"),
    path("results/<int:pk>/finish/undo", finish_views.undo, name="finish-undo"),
    path("results/<int:pk>/finish/propose", finish_views.propose, name="finish-propose"),
    path("results/<int:pk>/finish/bring-in", finish_views.bring_in, name="finish-bring-in"),
    path("results/<int:pk>/finish/print", finish_views.printing, name="finish-printing"),
    re_path(
        r"^results/(?P<pk>\d{1,9})/finish\.(?P<kind>json|cube|tif|pdf|svg)$", finish_views.export, name="finish-export"
    ),
    path("picks/", pick_views.picks, name="picks"),
    path("picks/begin", pick_views.begin, name="begin-pick"),
    path("picks/<int:pk>/", pick_views.pick, name="pick"),
    path("picks/<int:pk>/subject", pick_views.subject, name="pick-subject"),
    path("picks/<int:pk>/decide", pick_views.decide, name="decide-pick"),
    path("picks/<int:pk>/drop", pick_views.drop, name="drop-pick"),
    path("picks/<int:pk>/over-<int:candidate>.jpg", pick_views.over, name="pick-over"),
    path("learn/", learning_views.learn, name="learn"),
    path("learn/apply", learning_views.apply, name="apply-correction"),
    path("learn/corrections/<int:pk>/undo", learning_views.undo, name="undo-correction"),
]
