"""Make an administrator: a chef in every kitchen. Asks for the password, or reads it from the environment."""

from __future__ import annotations

import getpass
import os
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser

from people.models import User


class Command(BaseCommand):
    """`./spoon admin NAME`."""

    help = "Make an administrator. The password is asked for, or taken from OLDSPOON_ADMIN_PASSWORD."

    def add_arguments(self, parser: CommandParser) -> None:
        """One name."""
        parser.add_argument("name")

    def handle(self, *args: Any, name: str, **options: Any) -> None:
        """Ask for the password, check it, make or promote the person."""
        password = os.environ.get("OLDSPOON_ADMIN_PASSWORD") or getpass.getpass(f"Password for {name}: ")
        try:
            validate_password(password)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        user, _ = User.objects.get_or_create(username=name, defaults={"title": "administrator"})
        user.is_superuser = True
        user.set_password(password)
        user.save()
        self.stdout.write(f"{name} can log in and is a chef in every kitchen.")
