"""A person who may log in. What they may do is decided by kitchen, in `kitchen.models.Membership`."""

from common import clock
from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.db import models
from records.triggers import Frozen, chained_state


class User(AbstractUser):
    """One person, shown by what they do ("pastry cook").

    `habits` is how they read and write figures, as `people.schemas.Habits`. `pin` is kept as passwords are;
    after `people.hands.MOST_WRONG` wrong ones in a row it opens nothing until they log in by password.
    """

    title = models.CharField(max_length=80, blank=True)
    habits = models.JSONField(default=dict, blank=True)
    pin = models.CharField(max_length=128, blank=True)
    wrong_pins = models.PositiveSmallIntegerField(default=0)

    class Meta(AbstractUser.Meta):
        """How they are named on records is chained as those are."""

        triggers = (Frozen(), chained_state("person", "'people'"))

    def shown(self) -> str:
        """How the application names them."""
        return self.title or self.username


class OpenSession(models.Model):
    """That somebody logged in on some device: so that they see where, and can end it.

    A session that ran out or was ended elsewhere is open no more, whatever stands here.
    """

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="open_sessions")
    key = models.CharField(max_length=40, unique=True)
    since = models.DateTimeField(default=clock.now)
    device = models.CharField(max_length=80)
    by_pin = models.BooleanField(default=False)

    class Meta:
        """Newest first."""

        ordering = ("-since", "-id")
