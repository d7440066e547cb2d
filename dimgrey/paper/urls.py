from django.urls import path

from dimgrey.paper import views

urlpatterns = [
    path("scenes/<int:pk>/card", views.page, name="card"),
    path("scenes/<int:pk>/card.pdf", views.pdf, name="card-pdf"),
    path("outings/<int:pk>/cards.pdf", views.of_outing, name="cards-pdf"),
]
