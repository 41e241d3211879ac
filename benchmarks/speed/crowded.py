"""How long a small read waits while one person asks for much at once, beside the same read in peace."""

from __future__ import annotations

import http.client
import random
import threading
import time
from collections import Counter

from speed.assess import BODY, Caller, percentile, served

READS, AT_ONCE = 120, 60
SOLVE = {"draft": BODY, "goal": "texture", "texture": "heavy coat", "at_c": 4}
K = "/api/k/tidemill-house"


def measure(port: int) -> None:
    """In peace, then while sixty heavy questions at a time are asked by a viewer."""
    reader, viewer = Caller(port), Caller(port)
    reader.log_in()
    viewer("GET", "/api/session")
    viewer("POST", "/api/session", {"username": "guest", "password": "nappe-at-82"})
    peace = [reader("GET", f"{K}/batches") for _ in range(READS)]
    answers: Counter[int] = Counter()
    over = threading.Event()

    def ask() -> None:
        mine, dice = Caller(port), random.Random(threading.get_ident())  # noqa: S311 no secret
        mine.cookies = viewer.cookies
        while not over.is_set():
            try:
                mine.ask("POST", f"{K}/solve", SOLVE)
                answers[200] += 1
            except SystemExit as refused:
                answers[int(str(refused).split()[-1])] += 1
                mine.connection = http.client.HTTPConnection("127.0.0.1", port)
                # As the pages do: after what the answer names, and not all at once.
                time.sleep(dice.uniform(1.0, 1.5))

    asking = [threading.Thread(target=ask) for _ in range(AT_ONCE)]
    for one in asking:
        one.start()
    crowd = []
    for _ in range(READS):
        crowd.append(reader("GET", f"{K}/batches"))
        time.sleep(0.05)
    over.set()
    for one in asking:
        one.join()
    quiet, busy = percentile(peace, 0.95), percentile(crowd, 0.95)
    said = ", ".join(f"{count} × {status}" for status, count in sorted(answers.items()))
    print(f"{AT_ONCE} heavy questions at a time by one viewer: {said}")
    print(f"  a small read, p95: {busy:.0f} ms; in peace {quiet:.0f} ms: {busy / quiet:.1f} times")


if __name__ == "__main__":
    served(measure)
