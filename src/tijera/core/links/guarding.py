"""What guards a link: an address that can't be guessed, a password, and pauses where that is guessed.

Passwords are kept as Argon2id (RFC 9106) with the second recommended setting of its section 4: 3 passes over 64 MiB in 4 lanes,
a salt of 128 bits, a tag of 256 bits.
"""

from __future__ import annotations

import hashlib
import secrets

from argon2 import PasswordHasher, Type
from argon2.exceptions import InvalidHashError, VerificationError

_TOKEN_BYTES = 24
"""192 bits: a thousand guesses a second would take 10^46 years for one hit."""
_HASHER = PasswordHasher(time_cost=3, memory_cost=65_536, parallelism=4, hash_len=32, salt_len=16, type=Type.ID)
WRONG_BEFORE_PAUSE = 5
_FIRST_PAUSE_S, _LONGEST_PAUSE_S = 60, 24 * 3_600


def new_token() -> str:
    """What the address of a link ends with: 32 signs that an address may have."""
    return secrets.token_urlsafe(_TOKEN_BYTES)


def digest_of(token: str) -> bytes:
    """By which a token is looked for: how long that takes says nothing of how near a guess was."""
    return hashlib.sha256(token.encode("utf-8", "surrogatepass")).digest()


def hashed(password: str) -> str:
    """A password as it is kept; takes some 50 ms and 64 MiB, on purpose."""
    return _HASHER.hash(_bytes(password))


def is_right(kept: str, password: str) -> bool:
    """Whether it is the password that was kept."""
    try:
        return _HASHER.verify(kept, _bytes(password))
    except (VerificationError, InvalidHashError):
        return False


def _bytes(password: str) -> bytes:
    # Whatever somebody sends is a password, if a wrong one.
    return password.encode("utf-8", "surrogatepass")


def pause_s(wrong: int) -> int:
    """How long a link stays closed after so many wrong passwords in a row, in seconds.

    Nothing for the first four; then a minute, and with each further one twice as long, up to a day.
    """
    if wrong < WRONG_BEFORE_PAUSE:
        return 0
    doubled = min(wrong - WRONG_BEFORE_PAUSE, 20)
    return min(_FIRST_PAUSE_S << doubled, _LONGEST_PAUSE_S)


def closed_s(wrong: int, wrong_at_s: float, now_s: float) -> float:
    """How long it is still closed; a clock that was set back makes that no longer than the pause itself."""
    pause = pause_s(wrong)
    return min(max(wrong_at_s + pause - now_s, 0.0), pause)
