"""What every answer carries: pages are not kept by browsers, nothing is handed to other sites, and HEAD has no body."""

PERMISSIONS = "accelerometer=(self), camera=(self), geolocation=(self), gyroscope=(self), magnetometer=(self), microphone=(), payment=(), usb=()"
"""Only the field page asks the phone for its camera, place and tilt; other sites in a frame never."""


class FreshPages:
    """Marks whatever does not say how long it lasts as not to be stored: an exposure that is shown on Back must be the one that
    holds now, and what is private must not stay on a machine that others use."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        response = self.get_response(request)
        response.headers.setdefault("Cache-Control", "no-store")
        response.headers.setdefault("Cross-Origin-Resource-Policy", "same-origin")
        response.headers.setdefault("Permissions-Policy", PERMISSIONS)
        return response


class SecureCookies:
    """Marks cookies that are given over TLS so that they are never sent without it, also where the house is reached both ways."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        response = self.get_response(request)
        if request.is_secure() or request.headers.get("X-Forwarded-Proto") == "https":
            for cookie in response.cookies.values():
                cookie["secure"] = True
        return response


class HeadWithoutBody:
    """HEAD is answered as GET is, without its body (RFC 9110, clause 9.3.2)."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        response = self.get_response(request)
        if request.method == "HEAD":
            length = response.headers.get("Content-Length") or (
                None if response.streaming else str(len(response.content))
            )
            if response.streaming:
                response.streaming_content = []
            else:
                response.content = b""
            if length:
                response.headers["Content-Length"] = length
        return response
