"""Passwords that cost nothing, for tests that need many; that they cost something in earnest, `tests.tijera.core.test_links` checks."""

from __future__ import annotations

from typing import Any
from unittest import mock

from argon2 import PasswordHasher

_CHEAP = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)


def cheap_passwords() -> Any:  # noqa: ANN401  (a patch of the standard library has no name of its own)
    """A context in which passwords are kept at the least cost that Argon2 takes."""
    return mock.patch("tijera.core.links.guarding._HASHER", _CHEAP)
