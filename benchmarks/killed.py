"""Kills the server without warning at random moments of a storm of saves, and looks for a save that was acknowledged and lost."""

import http.client
import random
import threading
import time
import urllib.error

from benchmarks.shop import demo_server

KILLS = 50


def main() -> None:
    walk = random.Random(7)
    lost = acknowledged = 0
    with demo_server() as desk:
        # A small one, of which many are saved before a kill comes.
        job_id = desk.send("POST", f"/api/shops/{desk.shop_id}/jobs", {"name": "Small"})["id"]
        base = desk.get(f"/api/jobs/{job_id}")["document"]
        count = 0
        for _ in range(KILLS):
            killer = threading.Timer(walk.uniform(0.05, 1.5), desk.server.kill)
            killer.start()
            kept, tried = base["name"], base["name"]
            while True:
                count += 1
                tried = f"Save {count}"
                try:
                    base = desk.send("PUT", f"/api/jobs/{job_id}", {"base": base, "document": base | {"name": tried}})[
                        "document"
                    ]
                except (urllib.error.URLError, http.client.HTTPException, OSError):
                    break
                kept = tried
                acknowledged += 1
            killer.join()
            desk.server.start()
            base = desk.get(f"/api/jobs/{job_id}")["document"]
            # The save under way at the kill may or may not have landed; the one before it must have.
            if base["name"] not in (kept, tried):
                lost += 1
            time.sleep(0.05)
    print(f"Killed {KILLS} times in a storm of saves: {acknowledged} saves acknowledged, {lost} lost")


if __name__ == "__main__":
    main()
