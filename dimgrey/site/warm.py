"""What the first page after a start would wait for, done before it is asked: modules, tables, the light of the last scene."""

import logging
import threading

RECENT = 8


def warm():
    """Import what pages import late and plan the scenes of the last days. Whatever fails is left to the page that asks."""
    from django.db import connection

    from dimgrey.pictures import store
    from dimgrey.pictures.addresses import key_of
    from dimgrey.pictures.views import small_jpeg
    from dimgrey.scenes.models import Scene
    from dimgrey.scenes.situation import Situation
    from dimgrey.scenes.summary import listed

    try:
        recent = Scene.objects.select_related("picture", "outing").filter(removed=False).order_by("-updated_at")
        for k, scene in enumerate(recent[:RECENT]):
            if scene.picture is None:
                listed(scene)
                continue
            small_jpeg(scene.picture.path, key_of(Situation(scene).rendering))
            if k == 0:
                store.light(scene.picture.path)
    except Exception:  # a database that is not there yet, a picture that is gone: the page will say it
        logging.getLogger(__name__).info("Nothing was warmed up.", exc_info=True)
    finally:
        connection.close()


def start():
    """Warm up beside the first requests."""
    threading.Thread(target=warm, daemon=True, name="warm-up").start()
