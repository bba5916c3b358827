"""What a new message says, as JSON."""

from __future__ import annotations

from dataclasses import asdict

from pydantic import BaseModel, ConfigDict

from tijera.core.packages.formats.eml.compose import Letter


class _Letter(BaseModel):
    model_config = ConfigDict(extra="forbid")

    sender: str = ""
    to: str = ""
    cc: str = ""
    subject: str = ""
    text: str = ""
    date: str = ""
    token: str = ""


def letter_as_json(letter: Letter) -> str:
    """Write a letter."""
    return _Letter(**asdict(letter)).model_dump_json()


def letter_from_json(text: str) -> Letter:
    """Read a letter."""
    return Letter(**_Letter.model_validate_json(text).model_dump())
