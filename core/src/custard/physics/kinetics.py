"""First-order losses told by decimal reduction times: enzymes and germs."""

from __future__ import annotations

import numpy as np

from custard.physics.real import Real


def decimal_time(temperature: Real, reference: Real, at_reference: Real, z: Real) -> Real:
    """Time to lose nine tenths [s]; D = D_ref 10^((T_ref - T) / z).

    Parameters
    ----------
    temperature : temperature [degC]
    reference : temperature of the reference time [degC]
    at_reference : decimal reduction time there [s]
    z : warming that divides it by ten [K]

    >>> round(float(decimal_time(70.0, 60.0, 90.0, 5.0)), 3)
    0.9
    """
    return at_reference * 10.0 ** ((reference - temperature) / z)


def thinning(enzyme: float, per_hour: float, hours: float) -> float:
    """Share of its starch network a cream loses [1]; 1 - exp(-k a t).

    Parameters
    ----------
    enzyme : residual activity a, over all of it [1]
    per_hour : loss an hour with all the enzyme alive, k [1/h]
    hours : time it stands [h]

    >>> round(thinning(0.01, 1.6, 24.0), 2)
    0.32
    """
    return float(-np.expm1(-per_hour * enzyme * hours))


def sugared_time(reference_time: Real, sugars: Real, sugars_from: Real, decade: Real) -> Real:
    """Time for one log of a germ in a sweeter medium [s]; D = D_ref 10^(max(0, S - S_ref) / d).

    Sugar binds the water that heat needs to kill. Recalled from sugared yolk; it is used on the safe side.

    Parameters
    ----------
    reference_time : D_ref, up to S_ref [s]
    sugars : S, in the aqueous phase [%]
    sugars_from : S_ref [%]
    decade : d, sugar that makes it ten times as long [%]

    >>> float(sugared_time(180.0, 43.0, 18.0, 25.0))
    1800.0
    >>> float(sugared_time(180.0, 10.0, 18.0, 25.0))
    180.0
    """
    return reference_time * 10.0 ** (np.maximum(0.0, sugars - sugars_from) / decade)
