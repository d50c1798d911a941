"""What a page may load and keep: the product's own files and nothing else. Scripts only from files, never from the page."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        # The list boxes set their own scroll style in the page; a style can load nothing from outside under default-src.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)


class ContentPolicyMiddleware:
    """Sends the content security policy with every answer, and has none of the API kept."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        if request.path.startswith("/api/"):
            # A shop's figures stay out of what a browser keeps: the page keeps what it needs, and drops it at signing out.
            response.headers.setdefault("Cache-Control", "no-store")
        return response
