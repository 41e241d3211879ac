"""Twenty trainees at once, five pictures a second each: how long from an act to its picture.

Two ways in one run. A process keeps what it has replayed, so a picture costs what came since; and as if no
process kept anything, the whole attempt is replayed for every picture.
"""

from __future__ import annotations

import math
import statistics
import threading
import time
import uuid

from speed.assess import Caller, percentile, served

PLAYERS, PICTURES_A_S, SECONDS = 20, 5, 20
ALONE = 20
LONG_S = 240.0
"""How far each attempt has gone when it is measured [s]."""
K = "/api/k/tidemill-house/practice"


class Player(threading.Thread):
    """One trainee who draws in the pan and looks."""

    def __init__(self, port: int, cookies: dict[str, str]) -> None:
        super().__init__(daemon=True)
        self.call = Caller(port)
        self.call.cookies = dict(cookies)
        begun = self.call.ask("POST", f"{K}/attempts", {"id": str(uuid.uuid4()), "key": "nappe"})
        self.url = f"{K}/attempts/{begun['id']}/acts"
        self.after, self.at_s = 0, 0.0
        self.took: list[float] = []
        self.late = 0

    def lead(self) -> None:
        """A long attempt already behind it, so that there is something to replay."""
        self.call.connection.close()  # one that lay idle is not answered any more
        while self.at_s < LONG_S:
            self.step(self.at_s + 12.0, every_s=0.3)

    def step(self, until_s: float, every_s: float) -> float:
        """Stir up to a moment, and look; how long that took [ms]."""
        acts = []
        while self.at_s < until_s:
            turn = 5.5 * self.at_s
            acts.append({"at": self.at_s, "do": "stir", "x": 0.6 * math.cos(turn), "y": 0.6 * math.sin(turn)})
            self.at_s = round(self.at_s + every_s, 4)
        took = self.call("POST", self.url, {"after": self.after, "acts": acts, "until": self.at_s})
        self.after += 1
        return took

    def run(self) -> None:
        """Five times a second, as a page does: never two at once."""
        self.call.connection.close()
        begin = time.perf_counter()
        for picture in range(SECONDS * PICTURES_A_S):
            wait_s = begin + picture / PICTURES_A_S - time.perf_counter()
            if wait_s > 0:
                time.sleep(wait_s)
            elif wait_s < -1 / PICTURES_A_S:
                self.late += 1
            self.took.append(self.step(self.at_s + 1 / PICTURES_A_S, every_s=0.05))


def measure(port: int) -> None:
    """All at once, each with a long attempt behind it."""
    chef = Caller(port)
    chef.log_in()
    players = [Player(port, chef.cookies) for _ in range(PLAYERS)]
    for player in players:
        player.lead()
    for player in players:
        player.start()
    for player in players:
        player.join()
    took = sorted(ms for player in players for ms in player.took)
    late = sum(player.late for player in players)
    p95 = percentile(took, 0.95)
    print(
        f"{PLAYERS} players, {PICTURES_A_S} pictures a second each, {SECONDS} s; attempts of {LONG_S:.0f} s"
    )
    typical, most = statistics.median(took), took[-1]
    print(f"  from act to picture: median {typical:.0f} ms, p95 {p95:.0f} ms, most {most:.0f} ms")
    print(f"  {late} of {len(took)} pictures were asked for more than a picture's time late")
    kept, anew = [], []
    chef.connection.close()
    for _ in range(ALONE):
        kept.append(players[0].step(players[0].at_s + 1 / PICTURES_A_S, every_s=0.05))
        chef("GET", "/forget")
        anew.append(players[0].step(players[0].at_s + 1 / PICTURES_A_S, every_s=0.05))
    alone, whole = statistics.median(kept), statistics.median(anew)
    times = f"{whole / alone:.1f} times"
    print(f"  one player alone: {alone:.0f} ms; replayed from the first act: {whole:.0f} ms, {times}")


if __name__ == "__main__":
    served(measure)
