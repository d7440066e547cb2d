from django.apps import AppConfig


class PicturesConfig(AppConfig):
    name = "dimgrey.pictures"

    def ready(self):
        from dimgrey.people.quota import counts_room
        from dimgrey.pictures import deletion, queries  # noqa: F401 - deletion listens to what is deleted

        counts_room(queries.bytes_of_all)
