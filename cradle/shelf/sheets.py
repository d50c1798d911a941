"""Data sheets: a PDF or a picture, known by what is in it and not by its name."""

import io
from pathlib import PurePath

from PIL import Image, UnidentifiedImageError

from layup.errors import OutOfRange, Unreadable

MOST_BYTES = 15_000_000
MOST_SHEETS = 20
_PICTURES = {"PNG": "image/png", "JPEG": "image/jpeg", "WEBP": "image/webp"}


def content_type_of(content: bytes) -> str:
    """The type of a data sheet. Raises OutOfRange for one too large, Unreadable for what is no PDF and no picture."""
    if len(content) > MOST_BYTES:
        raise OutOfRange(
            f"is {len(content) / 1e6:.0f} MB: {MOST_BYTES / 1e6:.0f} MB at most, so save it smaller", "sheet"
        )
    if content.startswith(b"%PDF-") and b"%%EOF" in content[-2048:]:
        return "application/pdf"
    try:
        with Image.open(io.BytesIO(content), formats=list(_PICTURES)) as picture:
            found = _PICTURES.get(picture.format or "")
            picture.verify()
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        raise Unreadable(
            "is neither a PDF nor a picture: photograph the label, or save the sheet as PDF", "sheet"
        ) from error
    if found is None:
        raise Unreadable("is a picture of another kind: PNG, JPEG or WebP", "sheet")
    return found


def safe_name(name: str, content_type: str) -> str:
    """A file's own name without its path, with the ending of what is in it."""
    ending = {"application/pdf": ".pdf", "image/png": ".png", "image/jpeg": ".jpg", "image/webp": ".webp"}[content_type]
    stem = PurePath(name.replace("\\", "/")).stem
    kept = "".join(letter for letter in stem if letter.isalnum() or letter in " -_.")[:100].strip()
    return f"{kept or 'data sheet'}{ending}"
