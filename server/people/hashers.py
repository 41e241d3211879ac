"""How passwords are kept."""

from __future__ import annotations

from django.contrib.auth.hashers import Argon2PasswordHasher


class SmallArgon2(Argon2PasswordHasher):
    """Argon2id with the least memory that OWASP still advises, as remembered: 19 MiB, two passes, one lane.

    A kitchen's server is small, and whoever guesses costs it this much at each try.
    """

    memory_cost = 19 * 1024
    time_cost = 2
    parallelism = 1
