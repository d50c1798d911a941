"""The ASGI application that uvicorn serves."""

import os

import django
from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIHandler
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils.module_loading import import_string

from cradle.beside.gone import telling_who_is_gone
from cradle.door import with_a_cap


class OneThreadHandler(ASGIHandler):
    """Django's own, with all of a request in one thread: each hop between its sync and async parts costs as much as a query."""

    def load_middleware(self, is_async: bool = False) -> None:
        super().load_middleware(is_async=False)

    async def get_response_async(self, request: HttpRequest) -> HttpResponseBase:
        return await sync_to_async(self.get_response, thread_sensitive=True)(request)


os.environ.setdefault("DJANGO_SETTINGS_MODULE", "cradle.settings")
django.setup(set_prefix=False)
# What it keeps is read with the apps.
with_streams = import_string("cradle.bench.stream.with_streams")
application = with_a_cap(with_streams(telling_who_is_gone(OneThreadHandler())))
