"""Routes of the guide: its pages, the PDF of it, what changed, and what ships with the program."""

import json
from datetime import date
from functools import cache
from pathlib import Path

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Schema

from cradle.guide.content import GuidePage, Version, pages, versions
from cradle.guide.paper import guide_pdf
from layup.paper.kit import Paper

router = Router(tags=["guide"])


class GuideOut(Schema):
    pages: list[GuidePage]
    versions: list[Version]


class Shipped(Schema):
    """Something of others that ships with the program: `runs` in the server or on the page; the words of its licence, where they
    do not come with it otherwise."""

    name: str
    version: str
    licence: str
    runs: str
    words: str


class AboutOut(Schema):
    version: str
    on: date
    licence: str
    shipped: list[Shipped]


@router.get("/guide", response=GuideOut)
def read_guide(request: HttpRequest):
    return GuideOut(pages=list(pages()), versions=list(versions()))


@router.get("/guide.pdf", response=str)
def print_guide(request: HttpRequest, paper: Paper = "A4"):
    """The whole guide on paper."""
    headers = {"Content-Disposition": 'inline; filename="inch-cradle-guide.pdf"'}
    return HttpResponse(guide_pdf(paper, timezone.now().date()), content_type="application/pdf", headers=headers)


@router.get("/about", response=AboutOut)
def read_about(request: HttpRequest):
    newest = versions()[0]
    return AboutOut(version=newest.version, on=newest.on, licence="MIT", shipped=_shipped())


@cache
def _shipped() -> list[Shipped]:
    file = Path(__file__).parent / "shipped.json"
    return [Shipped.model_validate(each) for each in json.loads(file.read_text(encoding="utf-8"))]
