"""Coroutines in tests: beside a browser that is driven from the same process, whose own loop runs all the time."""

from __future__ import annotations

import asyncio
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

R = TypeVar("R")


def finished(coroutine: Coroutine[Any, Any, R]) -> R:
    """What it comes to, in a loop and a thread of its own."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(asyncio.run, coroutine).result()
