"""How late a light plan comes while twenty people sign in at once: a password is made to take long to look at."""

import threading
import time
from functools import partial

from benchmarks.shop import Tablet, at_once, demo_server, light_plan_ms, tablets
from cradle.demo_words import PASSWORD, PERSON

PEOPLE = 20


def main() -> None:
    with demo_server() as desk:
        (planner,) = tablets(desk, 1)
        job_id = desk.get(f"/api/shops/{desk.shop_id}/jobs")[-1]["id"]
        time.sleep(5)
        alone = light_plan_ms(planner, job_id, 12)
        done = threading.Event()

        def sign_in() -> None:
            name = {"person": PERSON, "password": PASSWORD}
            while not done.is_set():
                at_once([partial(Tablet(desk).send, "POST", "/api/session", name) for _ in range(PEOPLE)])

        signing_in = threading.Thread(target=sign_in)
        signing_in.start()
        along = light_plan_ms(planner, job_id, 22)
        done.set()
        signing_in.join()
    print(
        f"A light plan, 95th percentile: {alone:.0f} ms alone, {along:.0f} ms while {PEOPLE} people sign in at once, "
        f"{along / alone:.1f} times"
    )


if __name__ == "__main__":
    main()
