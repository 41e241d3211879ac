"""The chains. Nothing here is written by Python: triggers of the recorded tables add to them.

A chain is one kitchen's records, or one device's readings. An entry stands for the row or rows of one
statement; `digest` is over their content, `hash` over the entry and the hash before it, so that neither a row
nor an entry can be altered, dropped or put in between without everything after it saying so.
"""

from django.db import models


class Chain(models.Model):
    """The newest of a chain: how many entries there are, and the hash of the last."""

    name = models.CharField(max_length=40, primary_key=True)
    number = models.BigIntegerField()
    hash = models.BinaryField()

    def __str__(self) -> str:
        return self.name


class Entry(models.Model):
    """One record: `kind` and `keys` say which rows, `shape` which version of their content was hashed."""

    chain = models.CharField(max_length=40)
    number = models.BigIntegerField()
    kind = models.CharField(max_length=20)
    shape = models.PositiveSmallIntegerField()
    keys = models.TextField()
    digest = models.BinaryField()
    hash = models.BinaryField()
    at = models.DateTimeField()

    class Meta:
        """In order, without a gap."""

        constraints = (models.UniqueConstraint(fields=["chain", "number"], name="entry_once"),)
        indexes = (models.Index(fields=["kind", "chain"], name="entries_of_a_kind"),)

    def __str__(self) -> str:
        return f"{self.chain} {self.number}: {self.kind}"
