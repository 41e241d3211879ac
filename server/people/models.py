"""A person who may log in. What they may do is decided by kitchen, in `kitchen.models.Membership`."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class User(AbstractUser):
    """One person, shown by what they do ("pastry cook")."""

    title = models.CharField(max_length=80, blank=True)

    def shown(self) -> str:
        """How the application names them."""
        return self.title or self.username
