"""What the solver finds on its way, handed out as plans. Apart from the model, as it loads the solver."""

from __future__ import annotations

from collections.abc import Callable

from ortools.sat.python import cp_model

from custard.planning.day import Plan

__all__ = ["Found", "cp_model"]


class Found(cp_model.CpSolverSolutionCallback):  # type: ignore[misc]
    """Hands out every solution.

    Parameters
    ----------
    plan : makes a plan of the values of variables.
    bound : what no plan can cost less than, by the solver's own bound.
    better : takes both.
    """

    def __init__(
        self,
        plan: Callable[[Callable[[cp_model.IntVar], int]], Plan],
        bound: Callable[[float], int],
        better: Callable[[Plan, int], object] | None,
    ) -> None:
        super().__init__()
        self._plan, self._bound, self._better = plan, bound, better

    def on_solution_callback(self) -> None:
        """A better plan was found."""
        if self._better is not None:
            self._better(self._plan(self.value), self._bound(self.best_objective_bound))
