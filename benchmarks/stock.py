"""How long a draw of a pot takes, and the shelf with its stock, in a shop of 300 lots and 10,000 movements."""

import json
import statistics
import time

from benchmarks.shop import demo_server

LOTS, MOVEMENTS = 300, 10_000
PROMISED_DRAW_MS, PROMISED_SHELF_MS = 20, 100
FILL = f"""
from django.contrib.auth.models import User
from cradle.shops.models import Shop
from cradle.stock.keeping import told_of
from cradle.stock.models import Lot, Movement
shop, person = Shop.objects.get(), User.objects.get()
told = list(told_of(shop).values())
today = shop.now().date()
lots = Lot.objects.bulk_create(
    Lot(
        shop=shop,
        article_kind=(of := told[at % len(told)]).article.kind,
        product_id=of.article.product_id,
        name=of.name,
        batch=f"L{{at}}",
        left=1e6,
        received=today,
    )
    for at in range({LOTS})
)
Movement.objects.bulk_create(
    [Movement(lot=lots[at % {LOTS}], kind="came", amount=1, by=person) for at in range({MOVEMENTS})], batch_size=500
)
"""
# A pot that is written down anew each time draws the difference.
DRAW = """
import json, time
from django.contrib.auth.models import User
from cradle.bench.models import Run
from cradle.stock.drawing import Into, settle
from layup.stock.articles import Article
from layup.stock.needs import Taken
run, person = Run.objects.select_related("job__shop").first(), User.objects.get()
article, took = Article(kind="resin", product_id="epoxy-2-1"), []
for grams in range(100, 300, 5):
    began = time.perf_counter()
    settle(Into(run.job, "pot 9", run=run, pot=9), person, [Taken(article=article, amount=grams)], run.spec)
    took.append((time.perf_counter() - began) * 1000)
print(json.dumps(took))
"""


def main() -> None:
    with demo_server() as desk:
        desk.script(FILL)
        took = json.loads(desk.script(DRAW))
        shelf = []
        for _ in range(20):
            began = time.perf_counter()
            desk.get(f"/api/shops/{desk.shop_id}/stock")
            shelf.append((time.perf_counter() - began) * 1000)
    print(f"A stock of {LOTS} lots and {MOVEMENTS:,} movements beside the demo's:")
    print(f"  a draw, median of {len(took)}: {statistics.median(took):.1f} ms, promised under {PROMISED_DRAW_MS}")
    print(f"  the shelf, median of {len(shelf)}: {statistics.median(shelf):.0f} ms, promised under {PROMISED_SHELF_MS}")


if __name__ == "__main__":
    main()
