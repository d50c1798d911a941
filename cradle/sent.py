"""What a page sends: that it is ours, and the bytes of a file as they are."""

from django.http import HttpRequest
from django.http.request import RawPostDataException
from ninja.errors import HttpError
from ninja.utils import check_csrf

from layup.errors import Unreadable


def require_page(request: HttpRequest) -> None:
    """Raise HttpError where a page of another site asks, at a door that needs nobody to be signed in."""
    if check_csrf(request):
        raise HttpError(403, "the page is out of date: load it again")


def sent_file(request: HttpRequest, path: str = "") -> bytes:
    """The bytes sent as the body. Raises Unreadable, at a field, for a form, whose body is another thing than a file."""
    try:
        return request.body
    except RawPostDataException as error:
        raise Unreadable("send the file itself as the body, not as a form", path) from error
