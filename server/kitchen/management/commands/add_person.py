"""Add a person to a kitchen, making the kitchen when it is new."""

from __future__ import annotations

import getpass
import os
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction
from django.utils.text import slugify
from people.models import User

from kitchen.models import Kitchen, Membership, Role


class Command(BaseCommand):
    """`./spoon manage add_person NAME --kitchen "The kitchen" --role chef`."""

    help = "Add a person to a kitchen. The password is asked for, or taken from OLDSPOON_PASSWORD."

    def add_arguments(self, parser: CommandParser) -> None:
        """Who, where, as what."""
        parser.add_argument("name")
        parser.add_argument("--kitchen", required=True, help="the kitchen's name; made when it is new")
        parser.add_argument("--role", choices=Role.values, default=Role.COOK.value)
        parser.add_argument("--title", default="", help="how they are shown, as “pastry cook”")

    def handle(self, *args: Any, name: str, kitchen: str, role: str, title: str, **options: Any) -> None:
        """Make what is missing; someone who exists keeps their password."""
        slug = slugify(kitchen)
        if not slug:
            raise CommandError("The kitchen's name needs a letter or a number.")
        with transaction.atomic():
            # By its name first: a kitchen that was renamed keeps the address it was made with.
            place = Kitchen.objects.filter(name__iexact=kitchen).order_by("pk").first()
            if place is None:
                place, _ = Kitchen.objects.get_or_create(slug=slug, defaults={"name": kitchen})
            user, new = User.objects.get_or_create(username=name, defaults={"title": title})
            if new:
                user.set_password(self._password(name))
                user.save()
            elif os.environ.get("OLDSPOON_PASSWORD"):
                self.stdout.write(
                    f"{name} is known already and keeps their password; the password given is not used."
                )
            Membership.objects.update_or_create(user=user, kitchen=place, defaults={"role": role})
        self.stdout.write(f"{name} is {role} in {place.name}.")

    def _password(self, name: str) -> str:
        password = os.environ.get("OLDSPOON_PASSWORD") or getpass.getpass(f"Password for {name}: ")
        try:
            validate_password(password)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        return password
