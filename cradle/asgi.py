"""The ASGI application that uvicorn serves."""

import gc
import os
import sys

from django.core.asgi import get_asgi_application

from cradle.gone import telling_who_is_gone

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "cradle.settings")
application = telling_who_is_gone(get_asgi_application())
SWITCH_S = 0.0005


def warm_up() -> None:
    """Load what the first request would, and take it out of the collector's way: its full rounds hold an answer up."""
    import cradle.urls  # noqa: F401
    from layup.job import JobSpec
    from layup.plan import plan
    from layup.shop_facts import ShopFacts
    from layup.units import convert

    plan(JobSpec(name="Warm-up"), ShopFacts())
    convert(1, "oz", "g")
    # A table of the heat model that is being built gives way to requests sooner.
    sys.setswitchinterval(SWITCH_S)
    gc.collect()
    gc.freeze()


warm_up()
