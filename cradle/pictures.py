"""Photos as they are kept: small, upright, without what a camera writes about place and time."""

from io import BytesIO

from django.http import HttpResponse
from PIL import Image, ImageOps

from layup.errors import OutOfRange, Unreadable

MOST_BYTES = 15_000_000
LONGEST_PX = 1600
_QUALITY = 82
# Pillow itself warns over this.
_MOST_PIXELS = 89_000_000


def require_no_larger(size_bytes: int) -> None:
    """Raise OutOfRange for a photo larger than any phone takes."""
    if size_bytes > MOST_BYTES:
        raise OutOfRange(f"is {size_bytes / 1e6:.0f} MB: {MOST_BYTES / 1e6:.0f} MB at most", "photo")


def small(raw: bytes) -> tuple[bytes, tuple[int, int]]:
    """A picture as a JPEG of at most LONGEST_PX, turned upright, with nothing but its pixels; and its width and height."""
    try:
        with Image.open(BytesIO(raw)) as opened:
            if opened.width * opened.height <= _MOST_PIXELS:
                opened.draft("RGB", (LONGEST_PX, LONGEST_PX))
                picture = ImageOps.exif_transpose(opened).convert("RGB")
            size = opened.size
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise Unreadable("is no picture this program reads: send a JPEG, PNG or WebP", "photo") from error
    if size[0] * size[1] > _MOST_PIXELS:
        raise OutOfRange(f"is {size[0]} by {size[1]} pixels: send a smaller picture", "photo")
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    written = BytesIO()
    picture.save(written, "JPEG", quality=_QUALITY, optimize=True)
    return written.getvalue(), picture.size


def as_jpeg(content: bytes) -> HttpResponse:
    """A photo that was kept, for a page: it never changes."""
    headers = {"X-Content-Type-Options": "nosniff", "Cache-Control": "private, max-age=31536000, immutable"}
    return HttpResponse(bytes(content), content_type="image/jpeg", headers=headers)
