"""How long a search goes on once nobody waits: its connection is closed half a second after, its worker watched."""

import http.client
import json
import os
import time
from datetime import date, timedelta
from pathlib import Path

from benchmarks.shop import Desk, demo_server, processes_of
from tests.core.jobs import panel

ASKED_S, LOOKED_S, QUIET = 0.5, 0.25, 0.1
TICKS_A_SECOND = os.sysconf("SC_CLK_TCK")


def main() -> None:
    heavy = panel("epoxy-2-1", *["cloth-300"] * 12, width_m=8, length_m=10, pots={"largest_g": 120})
    with demo_server() as desk:
        job = desk.send("POST", f"/api/shops/{desk.shop_id}/jobs", heavy.model_dump(mode="json"))
        path, day = f"/api/jobs/{job['id']}/starts", (date.today() + timedelta(days=1)).isoformat()
        # The worker stands, and has its tables, once it has answered.
        began = time.monotonic()
        desk.send("POST", path, {"day": day})
        whole_s = time.monotonic() - began
        _ask_and_leave(desk, path, {"day": day})
        left, asked = time.monotonic(), _worked_s(desk)
        worked = asked
        while (now := _after_a_look(desk)) - worked > QUIET * LOOKED_S:
            worked = now
        goes_on_s = max(0.0, time.monotonic() - left - LOOKED_S)
    print(
        f"A search of {whole_s:.1f} s that nobody waits for, left after {ASKED_S:g} s: "
        f"{worked - asked:.1f} s of work after the connection closed, over in {goes_on_s:.1f} s"
    )


def _ask_and_leave(desk: Desk, path: str, body: dict) -> None:
    cookies = {cookie.name: cookie.value for cookie in desk.cookies}
    headers = {
        "Content-Type": "application/json",
        "X-CSRFToken": cookies["csrftoken"],
        "Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items()),
    }
    connection = http.client.HTTPConnection("127.0.0.1", desk.server.port)
    connection.request("POST", path, json.dumps(body), headers)
    time.sleep(ASKED_S)
    connection.close()


def _after_a_look(desk: Desk) -> float:
    time.sleep(LOOKED_S)
    return _worked_s(desk)


def _worked_s(desk: Desk) -> float:
    """Seconds of the processor that the server's workers have had."""
    ids = processes_of(desk.server.process.pid)[1:]
    fields = [Path(f"/proc/{each}/stat").read_text().rsplit(")", 1)[1].split() for each in ids]
    return sum(int(each[11]) + int(each[12]) for each in fields) / TICKS_A_SECOND
