"""Steps of a set-up, side by side: each begins when those it needs are done.

Whatever a step prints is a whole line. When one fails, those already running end, nothing new begins, and
what is done stays done: the next start goes on from there.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ThreadPoolExecutor, wait
from dataclasses import dataclass

from kitchenhand import say
from kitchenhand.say import Trouble, step


@dataclass(frozen=True)
class Step:
    """One part of a set-up, and the names of those that must be done before it. `run` does nothing when there
    is nothing to do."""

    name: str
    run: Callable[[], object]
    after: tuple[str, ...] = ()


class Progress:
    """What is done and what is still to do, for whoever looks meanwhile."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._states: dict[str, str] = {}

    def set(self, name: str, state: str) -> None:
        """Note that a step is `waiting`, `running` or `done`."""
        with self._lock:
            self._states[name] = state

    def states(self) -> dict[str, str]:
        """Every step with its state, in order."""
        with self._lock:
            return dict(self._states)


def run_together(steps: Sequence[Step], progress: Progress | None = None) -> None:
    """Run all steps, each as soon as what it needs is done.

    Raises
    ------
    Trouble
        what the first failing step raised, with the step's name and how to go on.
    """
    progress = progress or Progress()
    for one in steps:
        progress.set(one.name, "waiting")
    left, done = list(steps), set[str]()
    failure: tuple[str, BaseException] | None = None
    running: dict[Future[object], Step] = {}
    with ThreadPoolExecutor(len(steps)) as threads:
        try:
            while left or running:
                ready = [] if failure else [one for one in left if done.issuperset(one.after)]
                for one in ready:
                    left.remove(one)
                    progress.set(one.name, "running")
                    running[threads.submit(one.run)] = one
                if not running:
                    break
                ended, _ = wait(running, return_when=FIRST_COMPLETED)
                for future in ended:
                    one = running.pop(future)
                    error = future.exception()
                    if error is None:
                        done.add(one.name)
                        progress.set(one.name, "done")
                    elif failure is None:
                        failure = one.name, error
                        if running:
                            others = ", ".join(f"“{other.name}”" for other in running.values())
                            step(
                                f"“{one.name}” failed; {others} still ends, so that it need not be done again"
                            )
        except BaseException:
            say.end_running()
            raise
    if failure is not None:
        _raise(*failure)


def _raise(name: str, error: BaseException) -> None:
    if not isinstance(error, Trouble):
        raise error
    raise Trouble(
        f"The set-up stopped at “{name}”. What is done is kept: start again to go on from there.\n{error}"
    ) from error
