"""Pictures as bytes: the grey view of any address, and the colour view."""

import re

import numpy as np
from django.http import Http404, HttpResponse, JsonResponse
from django.template.loader import render_to_string
from django.views.decorators.http import require_POST, require_safe
from simplejpeg import encode_jpeg

from dimgrey.core.picture.display import display_table, squinted
from dimgrey.core.picture.lightmap import SIDES
from dimgrey.core.picture.painting import painting
from dimgrey.core.planning.prints import curve_for
from dimgrey.people.quota import most_of
from dimgrey.pictures import arrivals, derived, queries, store
from dimgrey.pictures.addresses import area_of, rendering_of
from dimgrey.pictures.forms import GreyForm

_RANGE = re.compile(r"bytes=(\d{1,12})-(\d{1,12})?")
SMALL_QUALITY = 60
"""Of small views: for lists, and for a slow line until the light map is there."""
FOR_GOOD = "private, max-age=31536000, immutable"


def own_folder(request, folder):
    """Path of a picture's folder, or a 404 that does not tell whether another person has it."""
    path = queries.folder_of(request.user, folder)
    if path is None:
        raise Http404("There is no such picture among yours.")
    return path


def gone(failed):
    """The answer for a picture whose files are missing."""
    return HttpResponse(str(failed), status=410, content_type="text/plain; charset=utf-8")


def jpeg_response(data):
    """JPEG bytes that a browser may keep for good, because their address says all they depend on."""
    response = HttpResponse(data, content_type="image/jpeg")
    response["Cache-Control"] = FOR_GOOD
    return response


@require_safe
def grey(request, folder, key):
    """The grey view as JPEG, a pure function of its address."""
    path = own_folder(request, folder)
    try:
        if GreyForm(request.GET).is_small():
            return jpeg_response(small_jpeg(path, key))
        return jpeg_response(encoded(grey_pixels(path, key)))
    except store.PictureGone as failed:
        return gone(failed)


def small_jpeg(path, key):
    """Bytes of the small view that a key says, kept as a file. path: of the picture's folder. Raises PictureGone."""
    return derived.kept_small(path, key, lambda: encoded(_halved(grey_pixels(path, key)), SMALL_QUALITY))


def _halved(pixels):
    """Half the size, four pixels averaged; a line that is left over goes, and what is a line itself stays. shape (h, w), uint8."""
    if min(pixels.shape) < 2:
        return pixels
    height, width = (n // 2 * 2 for n in pixels.shape)
    wide = pixels[:height, :width].astype(np.uint16)
    return ((wide[::2, ::2] + wide[1::2, ::2] + wide[::2, 1::2] + wide[1::2, 1::2] + 2) >> 2).astype(np.uint8)


def grey_pixels(path, key):
    """8-bit greys of the view that a key says, shape (h, w). path: of the picture's folder. Raises PictureGone."""
    shown = rendering_of(key)
    table = display_table(shown.stops, shown.slope, curve_for(shown.kind), shown.development, shown.look, shown.tone)
    pixels = store.grey(path, shown.chain, table, shown.overhead)
    return squinted(pixels) if shown.look == "squint" else pixels


@require_safe
def paint(request, key):
    """The tables of a grey view for the browser's painter, a pure function of its address."""
    shown = rendering_of(key)
    answer = JsonResponse(painting(shown.tone_map, shown.overhead, shown.look))
    answer["Cache-Control"] = FOR_GOOD
    return answer


@require_safe
def light_map(request, folder, side):
    """The picture's light for the painter, packed."""
    path = own_folder(request, folder)
    if side not in SIDES:
        raise Http404("There is no map of that size.")
    try:
        return _packed(request, store.light_map(path, side))
    except store.PictureGone as failed:
        return gone(failed)


@require_safe
def sky_map(request, folder, side, area):
    """Where the picture's sky is, for the painter, packed as the light map is."""
    path, overhead = own_folder(request, folder), area_of(area)
    if side not in SIDES:
        raise Http404("There is no map of that size.")
    try:
        return _packed(request, store.sky_map(path, overhead, side))
    except store.PictureGone as failed:
        return gone(failed)


def _packed(request, data):
    """Bytes that a browser may keep for good, or the part of them that it asks for (RFC 9110, clause 14)."""
    asked = _RANGE.fullmatch(request.headers.get("Range", ""))
    start, end = (int(asked[1]), min(int(asked[2] or len(data)), len(data) - 1)) if asked else (0, len(data) - 1)
    if asked and start > end:
        response = HttpResponse(status=416)
        response["Content-Range"] = f"bytes */{len(data)}"
        return response
    response = HttpResponse(
        data[start : end + 1], content_type="application/octet-stream", status=206 if asked else 200
    )
    response["Cache-Control"] = FOR_GOOD
    response["Accept-Ranges"] = "bytes"
    if asked:
        response["Content-Range"] = f"bytes {start}-{end}/{len(data)}"
        response["ETag"] = f'"{len(data)}"'
    return response


@require_safe
def kept(request, folder, name):
    """A view that was kept as a file: colour, or the grey of a second look."""
    path = own_folder(request, folder)
    try:
        return jpeg_response(store.view_bytes(path, f"{name}.jpg"))
    except store.PictureGone as failed:
        return gone(failed)


@require_safe
def arriving(request, purpose, subject):
    """How far the files are that came for a subject, asked again and again by a page that waits."""
    found = arrivals.arriving(request.user, purpose, subject)
    rows = render_to_string("pictures/_arriving_rows.html", {"arriving": found}, request)
    return JsonResponse({"waiting": len(found.waiting), "kept": found.kept, "rows": rows})


@require_safe
def room(request):
    """How many bytes of pictures a person may still bring, null for no limit."""
    most = most_of(request.user)
    return JsonResponse({"left": max(most - queries.bytes_of(request.user.pk), 0) if most else None})


@require_POST
def put_away(request, pk):
    """Let a file go that waits or was refused."""
    if arrivals.put_away(request.user, pk) is None:
        raise Http404("There is no such file among yours.")
    return HttpResponse(status=204)


def encoded(pixels, quality=85):
    """JPEG bytes of an 8-bit grey array, shape (h, w)."""
    return encode_jpeg(np.ascontiguousarray(pixels)[..., None], quality=quality, colorspace="GRAY")
