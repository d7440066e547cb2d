"""Pages travel compressed; pictures, which are packed already, as they are."""

from django.middleware.gzip import GZipMiddleware

TEXT = ("text/", "application/json", "image/svg+xml")


class ZippedText(GZipMiddleware):
    """Django's own compression, with its guard against guessing secrets by length, for text alone."""

    def process_response(self, request, response):
        if not response.get("Content-Type", "").startswith(TEXT):
            return response
        return super().process_response(request, response)
