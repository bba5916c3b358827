"""The log in the data folder: what failed, when and where in the code; nothing of pictures, documents or messages.

Of an exception only its class and the places in the code are written: its words may quote what somebody's file says.
"""

from __future__ import annotations

import logging
import logging.handlers
import sys
import traceback
from pathlib import Path
from types import TracebackType

FOLDER, FILE = "log", "tijera.log"
_MOST_BYTES, _FILES = 1_000_000, 3
_LOGGERS = ("tijera", "uvicorn", "asyncio")


class Discreet(logging.Formatter):
    """Says of exceptions which they are and where they came from, and not their words."""

    def __init__(self) -> None:
        super().__init__("%(asctime)s %(levelname)s %(name)s: %(message)s")

    def formatException(  # noqa: N802  (the name of logging)
        self, ei: tuple[type[BaseException], BaseException, TracebackType | None] | tuple[None, None, None]
    ) -> str:
        """Its class and its frames, and those of what it came from."""
        lines: list[str] = []
        error = ei[1]
        while error is not None:
            kind = type(error)
            number = f" {error.errno}" if isinstance(error, OSError) and error.errno is not None else ""
            lines.append(f"{kind.__module__}.{kind.__qualname__}{number}")
            lines += [
                f"  {Path(f.filename).name}:{f.lineno} in {f.name}" for f in traceback.extract_tb(error.__traceback__)
            ]
            error = error.__cause__ or error.__context__
        return "\n".join(lines)


def open_log(folder: Path) -> None:
    """Write what is logged from now on into the data folder, and errors to standard error as well.

    Where the folder can't be written there is only standard error: a log is no reason not to start.
    """
    handlers: list[logging.Handler] = [logging.StreamHandler(sys.stderr)]
    handlers[0].setLevel(logging.ERROR)
    try:
        (folder / FOLDER).mkdir(exist_ok=True)
        handlers.append(
            logging.handlers.RotatingFileHandler(
                folder / FOLDER / FILE, maxBytes=_MOST_BYTES, backupCount=_FILES, encoding="utf-8"
            )
        )
    except OSError:
        pass
    # A full disk is said where it matters; a line that can't be logged is not worth a trace on the terminal.
    logging.raiseExceptions = False
    for name in _LOGGERS:
        logger = logging.getLogger(name)
        logger.setLevel(logging.INFO if name == "tijera" else logging.WARNING)
        logger.propagate = False
        for handler in handlers:
            handler.setFormatter(Discreet())
            logger.addHandler(handler)
