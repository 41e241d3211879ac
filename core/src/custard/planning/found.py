"""What the solver finds on its way, handed out as plans. Apart from the model, as it loads the solver."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from ortools.sat.python import cp_model

from custard.planning.day import Plan

if TYPE_CHECKING:
    from custard.planning.model import Model

__all__ = ["Found", "cp_model"]


class Found(cp_model.CpSolverSolutionCallback):  # type: ignore[misc]
    """Hands out every solution."""

    def __init__(self, model: Model, better: Callable[[Plan, int], object] | None) -> None:
        super().__init__()
        self._model, self._better = model, better

    def on_solution_callback(self) -> None:
        """A better plan was found."""
        if self._better is not None:
            self._better(self._model.plan(self.value), self._model.bound(self.best_objective_bound))
