"""What was asked of kitchen, hob and formula until now becomes each batch's own; marks become facts."""

from django.db import migrations
from django.db.models import CharField
from django.db.models.functions import Cast

STAGE_COLUMNS = {
    "weigh": "weighed_at",
    "warm": "warmed_at",
    "temper": "tempered_at",
    "cook": "cooked_at",
    "test": "tested_at",
    "chill": "chilled_at",
    "keep": "kept_at",
}
STAGES = list(STAGE_COLUMNS)


def freeze(apps, _editor):
    """What was asked of kitchen, hob and formula until now becomes each batch's own; marks become facts."""
    import custard  # noqa: PLC0415 only when there is something to move

    # Signs were known by their place; the first plans are read with places for names.
    apps.get_model("stove", "Mark").objects.filter(kind="sign", line__isnull=False).update(
        what=Cast("line", CharField())
    )
    Batch, ParameterSet = apps.get_model("stove", "Batch"), apps.get_model("stove", "ParameterSet")
    parameters = custard.larder.standard()
    kept = None
    whole = Batch.objects.select_related("kitchen", "version__formula", "hob", "pan")
    for batch in whole.iterator(chunk_size=200):
        if kept is None:
            kept, _ = ParameterSet.objects.get_or_create(
                version=parameters.version, defaults={"values": parameters.as_json()}
            )
        conditions = custard.Conditions(altitude_m=batch.kitchen.altitude_m, rule=batch.kitchen.cooling_rule)
        result = custard.assess(custard.read_formula(batch.content), conditions)
        batch.parameters = kept
        batch.conditions = conditions.as_json()
        batch.schools = batch.version.formula.schools
        batch.equipment = equipment(custard, result, batch)
        batch.name, batch.family = batch.content["name"], batch.content["family"]
        batch.way = result.family.way_when(boiled=batch.plan["boiled"]).name
        batch.mass_g, batch.planned_stop_c = batch.plan["mass_g"], batch.plan["stop_c"]
        batch.planned_landing_c = batch.plan["landing_c"]
        undisturbed = result.way.undisturbed
        batch.planned_coat = custard.process.DONE_WOBBLE if undisturbed else batch.plan["hot"]["word"]
        batch.taught_at = batch.closed_at if batch.after else None
        tell(batch)
        batch.save()


def equipment(custard, result, batch):
    """Hob and pan as they are known today: nothing older was kept."""
    found = custard.stove.unmeasured(
        result, custard.bench.answers(result.formula, batch.version.formula.schools)
    ).as_json()
    if batch.hob is not None:
        found["stove"] |= {"power_w": batch.promised_w or batch.hob.power_w, "over_steam": batch.hob.over_steam}
        found["power_spread"] = batch.hob.power_spread
    if batch.pan is not None:
        found["stove"]["pan"] = batch.pan.kind
        found |= {"pan_share": batch.pan.heat_share, "pan_spread": batch.pan.heat_spread}
    return found


def tell(batch):
    """The facts that the marks hold."""
    marks = list(batch.marks.filter(withdrawn_at=None).order_by("at", "id"))
    done = {mark.stage: mark.at for mark in marks if mark.kind == "done"}
    furthest = max((STAGES.index(stage) for stage in done), default=-1)
    batch.stage = STAGES[min(furthest + 1, len(STAGES) - 1)]
    for stage, column in STAGE_COLUMNS.items():
        setattr(batch, column, done.get(stage))
    for mark in marks:
        if mark.temperature_c is not None and mark.stage == "temper":
            batch.landed_c = mark.temperature_c
        if mark.temperature_c is not None and mark.stage == "cook":
            batch.lifted_c = mark.temperature_c
        if mark.kind == "spoon":
            batch.coat, batch.finger_line = mark.coat, mark.finger_line
        if mark.kind == "sieve":
            batch.sieve = mark.sieve
    nudges = [mark.what for mark in marks if mark.kind == "nudge"]
    batch.coat = nudges[-1] if nudges else batch.coat


class Migration(migrations.Migration):
    dependencies = [("stove", "0005_frozen_and_facts")]

    operations = [migrations.RunPython(freeze, migrations.RunPython.noop)]
