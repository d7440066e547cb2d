"""Pages are not kept by browsers: an exposure that is shown on Back must be the one that holds now."""


class FreshPages:
    """Marks pages and fragments as not to be stored; pictures, files and whatever says how long it lasts are left alone."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        response = self.get_response(request)
        if response.headers.get("Content-Type", "").startswith("text/html"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response
