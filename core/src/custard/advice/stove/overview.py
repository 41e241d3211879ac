"""Everything that is shown at once of one mix: what to weigh, what it becomes, how it is done."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from custard.advice.bench.card_says import CardSays, card_says
from custard.advice.bench.destinations import Shared, shared
from custard.advice.bench.weighing import weighings
from custard.advice.finish.additions import finishing
from custard.advice.finish.outcome import Finishing
from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import Texture, Whisked
from custard.advice.mix.window import Window
from custard.advice.stove.planned import heat_warnings
from custard.advice.stove.stages import Stage, landing_of, stages
from custard.conditions import NOTHING_LEARNED, Learned
from custard.figures import Celsius, Grams, Hundredths, Share, Tenths, Thousandths
from custard.formula import Formula
from custard.process.heating.infusing import Infusing, infusing
from custard.vocabulary import Laid, When


@dataclass(frozen=True)
class SlipLine:
    """One thing to weigh.

    Attributes
    ----------
    ingredient, name, amount, note : what it is by id and name, as it was written, what was noted.
    mass_g : what is weighed here [g]; `share` of the line [1], the rest of which is weighed elsewhere.
    tare_g : what stands in its bowl with it [g].
    when : the moment at which it joins; `laid` where it is laid out; `line` its place in the formula.
    """

    ingredient: str
    name: str
    amount: str
    mass_g: Hundredths
    tare_g: Hundredths
    note: str
    when: When
    line: int
    laid: Laid
    share: Share


@dataclass(frozen=True)
class Overview:
    """One mix as the Bench shows it and as a batch keeps it for its plan.

    Attributes
    ----------
    slip : what to weigh, bowl by bowl.
    mass_g, yield_g, whites_left_g, dairy_g : what goes in, what comes out, whites over, milk and cream [g].
    yolks, yolk_g_per_l : how many, and how much for a litre of what sets [g/l]; None without liquid.
    sugars_in_aqueous_percent, ethanol_in_aqueous_percent, egg_protein_percent, starch_in_aqueous_percent :
        shares of the water phase, and of the whole [%].
    ph, boiling_c : acidity, and where it boils in this kitchen [degC].
    window : where it thickens, coats and curdles; `stop_c` where it comes off [degC]; `boiled` whether held.
    hot, cold, whisked : how thick it is in the pan, cold, and cold after a whisk.
    warnings : what to beware of, each a sentence.
    landing_c : where tempering lands [degC]; None where nothing is tempered.
    stages, infusing, finish, shared : how it is done, what is infused, what joins late, what it is for.
    served_at_once : it does not keep: it goes out as it is made.
    card : what the temperature that its recipe names does to it; None where it names none.
    learned : what the kitchen's own batches say of it, in all these figures; None where they say nothing.
    """

    slip: tuple[SlipLine, ...]
    mass_g: Hundredths
    yield_g: Grams
    whites_left_g: Grams
    yolks: Hundredths
    yolk_g_per_l: Tenths | None
    dairy_g: Grams
    allergens: tuple[str, ...]
    sugars_in_aqueous_percent: Hundredths
    ethanol_in_aqueous_percent: Hundredths
    egg_protein_percent: Thousandths
    starch_in_aqueous_percent: Hundredths
    ph: Hundredths
    boiling_c: Celsius
    window: Window
    stop_c: Celsius
    boiled: bool
    hot: Texture
    cold: Texture
    landing_c: Celsius | None
    stages: tuple[Stage, ...]
    whisked: Whisked | None = None
    warnings: tuple[str, ...] = ()
    infusing: Infusing | None = None
    finish: Finishing | None = None
    shared: Shared | None = None
    served_at_once: bool = False
    card: CardSays | None = None
    learned: Learned | None = None


def overview(formula: Formula, result: Assessment, schools: Mapping[str, str] | None = None) -> Overview:
    """Everything that is shown at once of one mix.

    Parameters
    ----------
    formula : as it is written; its lines name the amounts on the slip.
    result : what it becomes in a kitchen.
    schools : what was chosen where good cooks disagree.

    Raises
    ------
    UnknownName
        when a question or a school is not one.
    """
    pan, steps = result.pan, stages(result, schools)
    return Overview(
        slip=_slip(formula, result, schools),
        mass_g=result.weighed_g,
        yield_g=result.yield_g,
        whites_left_g=result.whites_left_g,
        yolks=formula.yolks(),
        yolk_g_per_l=result.yolk_g_per_l,
        dairy_g=formula.dairy_g(),
        allergens=tuple(result.allergens),
        sugars_in_aqueous_percent=float(pan.sugars_in_aqueous_percent),
        ethanol_in_aqueous_percent=float(pan.ethanol_in_aqueous_percent),
        egg_protein_percent=float(pan.egg_protein_percent),
        starch_in_aqueous_percent=float(pan.starch_in_aqueous_percent),
        ph=float(pan.ph),
        boiling_c=result.boiling_c,
        window=result.window,
        stop_c=result.stop.at_c,
        boiled=result.stop.boiled,
        hot=result.hot,
        cold=result.cold,
        whisked=result.whisked,
        warnings=(*result.warnings, *heat_warnings(result, schools)),
        landing_c=landing_of(steps),
        stages=steps,
        infusing=infusing(result.formula, result.conditions),
        finish=finishing(result),
        shared=shared(result) if formula.destinations else None,
        served_at_once=result.served_at_once,
        card=card_says(result),
        learned=None if result.conditions.learned == NOTHING_LEARNED else result.conditions.learned,
    )


def _slip(formula: Formula, result: Assessment, schools: Mapping[str, str] | None) -> tuple[SlipLine, ...]:
    found = []
    for one in weighings(result.formula, schools):
        line = formula.lines[one.line]
        found.append(
            SlipLine(
                ingredient=line.ingredient.id,
                name=line.ingredient.name,
                amount=line.amount,
                mass_g=one.grams,
                tare_g=one.tare_g,
                note=line.note,
                when=line.when,
                line=one.line,
                laid=one.laid,
                share=one.share,
            )
        )
    return tuple(found)
