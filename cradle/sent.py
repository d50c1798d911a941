"""What a page sends as it is: the bytes of a file, within the limits of the server."""

from django.http import HttpRequest
from django.http.request import RawPostDataException

from layup.errors import Unreadable


def sent_file(request: HttpRequest, path: str = "") -> bytes:
    """The bytes sent as the body. Raises Unreadable, at a field, for a form, whose body is another thing than a file."""
    try:
        return request.body
    except RawPostDataException as error:
        raise Unreadable("send the file itself as the body, not as a form", path) from error
