"""What is said with the built page's files beyond what the files are."""

from collections.abc import MutableMapping

_KEEPER = "/static/sw.js"


def page_keeper_headers(headers: MutableMapping[str, str], path: str, url: str) -> None:
    """The script that keeps the pages on a device answers for all of them, and is looked at anew at each visit."""
    if url == _KEEPER:
        headers["Service-Worker-Allowed"] = "/"
        headers["Cache-Control"] = "no-cache"
