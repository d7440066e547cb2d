from django.urls import path

from dimgrey.book import views

urlpatterns = [
    path("book/", views.index, name="book"),
    path("book/patch.json", views.patch, name="book-patch"),
    path("book/terms.json", views.terms, name="book-terms"),
    path("book/<slug:name>/", views.page, name="book-page"),
]
