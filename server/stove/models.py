"""Batches. Each keeps its own copy of what was weighed and planned; what happens to it is a list of marks."""

from datetime import datetime

from common import clock
from common.words import WordField
from custard.vocabulary import MarkKind, StageName, Verdict, WayName
from django.conf import settings
from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVector
from django.db import models
from records.triggers import Frozen, append_only, chained, chained_state

MAY_BE_USED = "may be used"
"""What a mark of a decision says when it lets a batch be used whose record lacks something."""


ODD, NOT_ODD = "odd", "not odd"
"""What a mark of that kind says: whether anything is to be learned of its batch; the newest counts."""
LANGUAGE = "simple"
"""Words are looked for as they are written: no language's endings are cut off."""
BATCH_WORDS = SearchVector("name", "verdict_note", config=LANGUAGE)
MARK_WORDS = SearchVector("note", config=LANGUAGE)
"""What words are looked for in; the indexes are over exactly these."""
LAID_VERSION = 1
"""Of what is kept of a batch to be laid over others; what has another is worked out when it is asked for."""
BY_THE_PROBE = "by the probe"
"""What a mark says that a worker made because the probe showed it."""


class ParameterSet(models.Model):
    """The model's parameters as they were, by their version; written once."""

    version = models.CharField(max_length=16, primary_key=True)
    values = models.JSONField()

    def __str__(self) -> str:
        return self.version


FROZEN = (
    "kitchen", "number", "version", "content", "schools", "conditions", "parameters", "plan", "name",
    "family", "way", "mass_g", "planned_c", "planned_coat", "started_by", "started_at", "pace",
    "changed", "egg_source",
)  # fmt: skip
"""The fields of a batch that are written when it is taken to the stove, and never again."""


class Batch(models.Model):
    """One sauce being made, or made. What it is made of, how, under what conditions and by which parameters
    is frozen when it is taken to the stove; what it came to is written once, when it happens.

    Frozen: `content` is the formula as weighed (Old Spoon JSON); `schools` the answers where cooks
    disagree; `conditions` those of the kitchen; `egg_source` whose eggs were in the house; `parameters` the
    model's, by version; `equipment` what it is cooked on and in, as it was known when it was chosen; `plan`
    what was computed of all that, a versioned document; `cooling` in what and by what ways it is cooled,
    once that was chosen; `vulnerable` whether it is for guests who must not fall ill; `changed` in what it
    differs from its version, scaled; `lift` where it comes off when no probe is read, by hob and pan.
    `allergens` are those of its formula and of all that was drawn into it. Of these the columns `name`,
    `family`, `way`, `mass_g` and those that begin with `planned_` are copies to be asked by.

    Facts: the columns from `stage` on; by the name of a stage `planned_c` says at what temperature it was to
    be left, `left_c` at which it was [degC], `done_at` when it was done; `allergens` are those of its formula
    and of all that was drawn into it, `unheated` what of that joined after the heat. `pace` is how many times
    as fast its time runs: 1, unless it is a rehearsal. `taught_at` says when hob and pan learned from it,
    which happens once; `took` how long its steps took, as `stove.after.paces` keeps it.
    """

    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.CASCADE, related_name="batches")
    number = models.PositiveIntegerField()
    version = models.ForeignKey("book.FormulaVersion", on_delete=models.PROTECT, related_name="batches")
    content = models.JSONField()
    schools = models.JSONField(default=dict)
    conditions = models.JSONField(default=dict)
    parameters = models.ForeignKey(ParameterSet, on_delete=models.PROTECT, related_name="+")
    equipment = models.JSONField(default=dict)
    plan = models.JSONField()
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=40)
    way = WordField(WayName, max_length=10)
    mass_g = models.FloatField()
    cooling = models.JSONField(null=True, blank=True)
    planned_c = models.JSONField(default=dict)
    planned_coat = models.CharField(max_length=20)
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    started_at = models.DateTimeField()
    pace = models.FloatField(default=1)
    closed_at = models.DateTimeField(null=True, blank=True)
    verdict = WordField(Verdict, max_length=12, blank=True)
    verdict_note = models.CharField(max_length=500, blank=True)
    hob = models.ForeignKey("kitchen.Hob", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    pan = models.ForeignKey("kitchen.Pan", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    stage = WordField(StageName, max_length=10, default=StageName.WEIGH)
    done_at = models.JSONField(default=dict)
    left_c = models.JSONField(default=dict)
    peak_c = models.FloatField(null=True, blank=True)
    coat = models.CharField(max_length=20, blank=True)
    finger_line = models.CharField(max_length=10, blank=True)
    sieve = models.CharField(max_length=20, blank=True)
    yield_g = models.FloatField(null=True, blank=True)
    fitted_w = models.FloatField(null=True, blank=True)
    fitted_pan_share = models.FloatField(null=True, blank=True)
    shift_k = models.FloatField(null=True, blank=True)
    taught_at = models.DateTimeField(null=True, blank=True)
    took = models.JSONField(null=True, blank=True)
    after = models.JSONField(default=list, blank=True)
    vulnerable = models.BooleanField(default=False)
    allergens = models.JSONField(default=list)
    unheated = models.JSONField(default=list)
    changed = models.JSONField(default=list)
    lift = models.JSONField(null=True, blank=True)
    egg_source = models.CharField(max_length=80, blank=True)

    class Meta:
        """Numbered within the kitchen, newest first."""

        ordering = ("-started_at", "-id")
        constraints = (models.UniqueConstraint(fields=["kitchen", "number"], name="batch_number"),)
        # The pages of the log go by the constraint's own index; this one holds only what is open.
        indexes = (
            models.Index(
                fields=["kitchen", "-started_at"], condition=models.Q(closed_at=None), name="open_batches"
            ),
            models.Index(fields=["kitchen", "started_at"], name="batches_by_time"),
            models.Index(fields=["kitchen", "started_by"], name="batches_by_cook"),
            GinIndex(BATCH_WORDS, name="words_of_batches"),
        )
        triggers = (Frozen(*FROZEN), chained_state("batch", "'kitchen ' || NEW.kitchen_id", shape=2))

    def __str__(self) -> str:
        return f"batch {self.number}, {self.name}"

    def when_done(self, stage: StageName) -> datetime | None:
        """When a stage of it was done; None where it was not."""
        at = self.done_at.get(stage)
        return None if at is None else datetime.fromisoformat(at)


class Mark(models.Model):
    """Something that happened to a batch. Its id is made where it happened, so it arrives only once."""

    id = models.UUIDField(primary_key=True)
    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="marks")
    stage = WordField(StageName, max_length=10)
    kind = WordField(MarkKind, max_length=12)
    at = models.DateTimeField()
    temperature_c = models.FloatField(null=True, blank=True)
    line = models.PositiveSmallIntegerField(null=True, blank=True)
    what = models.CharField(max_length=30, blank=True)
    grams = models.FloatField(null=True, blank=True)
    coat = models.CharField(max_length=20, blank=True)
    finger_line = models.CharField(max_length=10, blank=True)
    sieve = models.CharField(max_length=20, blank=True)
    note = models.CharField(max_length=500, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True)

    class Meta:
        """In the order in which they happened; added, never changed."""

        ordering = ("at", "id")
        indexes = (
            models.Index(fields=["batch", "at"]),
            # A page of the log asks fifty batches whether they are odd; few are.
            models.Index(fields=["batch", "-at"], condition=models.Q(kind=MarkKind.ODD), name="odd_marks"),
            GinIndex(MARK_WORDS, name="words_of_marks", condition=~models.Q(note="")),
        )
        triggers = (
            append_only(),
            chained("mark", "SELECT kitchen_id FROM stove_batch WHERE id = NEW.batch_id"),
        )

    def __str__(self) -> str:
        return f"{self.batch}: {self.stage} {self.kind}"


class Withdrawal(models.Model):
    """That a mark was taken back; the mark stays in the record beside it."""

    mark = models.OneToOneField(Mark, on_delete=models.PROTECT, related_name="withdrawal")
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True)

    class Meta:
        """Added, never changed."""

        triggers = (
            append_only(),
            chained(
                "withdrawal",
                "SELECT kitchen_id FROM stove_batch b JOIN stove_mark m ON m.batch_id = b.id "
                "WHERE m.id = NEW.mark_id",
            ),
        )

    def __str__(self) -> str:
        return f"{self.mark}, taken back"


class Remedy(models.Model):
    """What was done about a trouble: a mark with all that was advised, as it was told.

    `lines` are what it adds to the batch, in the open format; `add` all that was weighed, also what was
    weighed in place of what was thrown away. `before` and `after` are what the batch was to be, and what it
    became, in the figures of its plan; `tub` is the number of the tub it was done with, None for the whole
    batch, and `life_before` how that kept.
    """

    mark = models.OneToOneField(Mark, on_delete=models.PROTECT, related_name="remedy")
    fault = models.CharField(max_length=30)
    cause = models.CharField(max_length=500)
    say = models.CharField(max_length=500)
    steps = models.JSONField()
    cautions = models.JSONField(default=list)
    add = models.JSONField(default=list)
    lines = models.JSONField(default=list)
    allergens = models.JSONField(default=list)
    takes_g = models.FloatField(default=0)
    heat_to_c = models.FloatField(null=True, blank=True)
    warmed_again = models.CharField(max_length=500, blank=True)
    becomes = models.CharField(max_length=60)
    before = models.JSONField()
    after = models.JSONField()
    tub = models.PositiveSmallIntegerField(null=True, blank=True)
    life_before = models.JSONField(null=True, blank=True)

    class Meta:
        """Added, never changed."""

        verbose_name_plural = "remedies"
        triggers = (
            append_only(),
            chained(
                "remedy",
                "SELECT kitchen_id FROM stove_batch b JOIN stove_mark m ON m.batch_id = b.id "
                "WHERE m.id = NEW.mark_id",
            ),
        )

    def __str__(self) -> str:
        return f"{self.fault}: {self.say}"


class ProbeUse(models.Model):
    """That a probe lies in a batch, since when and until when; what it reads in between is the batch's.

    How far it reads too high, how sure that is and the day of its check are as they were when it was put in.
    """

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="probes")
    device = models.ForeignKey("devices.Device", on_delete=models.CASCADE, related_name="uses")
    reads_high_k = models.FloatField(default=0)
    error_k = models.FloatField(null=True, blank=True)
    checked_on = models.DateField(null=True, blank=True)
    since = models.DateTimeField()
    until = models.DateTimeField(null=True, blank=True)

    class Meta:
        """In order; a probe is in one batch at a time, and a batch has one probe at a time."""

        ordering = ("since", "id")
        constraints = (
            models.UniqueConstraint(
                fields=["device"], condition=models.Q(until=None), name="probe_in_one_batch"
            ),
            models.UniqueConstraint(
                fields=["batch"], condition=models.Q(until=None), name="batch_has_one_probe"
            ),
        )
        triggers = (
            Frozen("batch", "device", "since", "reads_high_k", "error_k", "checked_on"),
            chained_state(
                "probeuse",
                "'kitchen ' || (SELECT kitchen_id FROM stove_batch WHERE id = NEW.batch_id)",
                shape=2,
            ),
        )


class BatchLesson(models.Model):
    """What one closed batch says of where its sauce sets, of its pan and of what stayed behind.

    `document` is as `custard.learning.Spoke` keeps it, computed again where the model has changed since;
    `laid` is the batch made ready to be laid over others, with the version of what is kept there.
    """

    batch = models.OneToOneField(Batch, on_delete=models.CASCADE, primary_key=True, related_name="lesson")
    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.CASCADE, related_name="+")
    started_at = models.DateTimeField()
    document = models.JSONField()
    laid = models.JSONField(null=True, blank=True)

    class Meta:
        """The newest of a kitchen first."""

        indexes = (models.Index(fields=["kitchen", "-started_at"], name="newest_lessons"),)

    def __str__(self) -> str:
        return f"what {self.batch} says"


class LiveState(models.Model):
    """Where an open batch stands, computed by a worker when something changed; screens only read it.

    `at` is the moment it is true of, `due_at` when it is to be computed again; `slot_at` is the last turn
    given to its probes' readings and `turn_at` from when the next is earned. A worker that computes holds it
    until `claimed_until`; one that died lets it go by that. `document` is what a screen shows, the other
    columns are what all open batches are sorted by.
    """

    batch = models.OneToOneField(Batch, on_delete=models.CASCADE, primary_key=True, related_name="live_state")
    kitchen = models.ForeignKey("kitchen.Kitchen", on_delete=models.CASCADE, related_name="+")
    computed_at = models.DateTimeField(null=True, blank=True)
    claimed_until = models.DateTimeField(null=True, blank=True)
    due_at = models.DateTimeField(default=clock.now)
    slot_at = models.DateTimeField(null=True, blank=True)
    turn_at = models.DateTimeField(null=True, blank=True)
    at = models.DateTimeField(null=True, blank=True)
    document = models.JSONField(null=True, blank=True)
    say = models.CharField(max_length=200, blank=True)
    seconds = models.FloatField(null=True, blank=True)
    urgency = models.PositiveSmallIntegerField(default=0)

    class Meta:
        """The most urgent of a kitchen first; those that are due, by when."""

        indexes = (
            models.Index(fields=["kitchen", "-urgency", "seconds"], name="most_urgent"),
            models.Index(fields=["due_at"], name="live_due"),
        )

    def __str__(self) -> str:
        return f"{self.batch_id}: {self.say}"
