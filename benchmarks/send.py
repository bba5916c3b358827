"""Sending two megabytes to the postbox, against the standard library with the finished bytes; the queue's writing is in ours."""

from __future__ import annotations

import io
import smtplib
import tempfile
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
from PIL import Image

from benchmarks.measure import Result, compare, ratio
from tijera.core.mail.post import MailServer
from tijera.core.packages.formats.eml.compose import Letter
from tijera.post.smtp import SmtpPost
from tijera.postbox.server import Postbox
from tijera.store.store import Store
from tijera.usecases import letters, looking, placing, sending, taking
from tijera.usecases.workshop import Workshop

_FROM, _TO = "watch@quillhaven.example", "harbour-office@quillhaven.example"


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="microseconds")


def run() -> Result:
    """Measure."""
    with tempfile.TemporaryDirectory() as folder:
        postbox = Postbox(Path(folder) / "postbox", _now)
        host, port = postbox.address()
        store = Store(Path(folder) / "data", _now)
        workshop, post = Workshop(store, {}, _now), SmtpPost(MailServer(host, port, "none"))
        begun = letters.new_message(workshop)
        out = io.BytesIO()
        noise = np.random.default_rng(16).integers(0, 256, (715, 715, 3), dtype=np.uint8)
        Image.fromarray(noise).save(out, "PNG")
        clipping = taking.bring_in(workshop, out.getvalue(), "Chart.png")
        placing.place(workshop, begun.id, clipping.id, "h.0")
        letters.write_letter(workshop, begun.id, Letter(sender=_FROM, to=_TO, subject="Chart", text="Good morning."))
        data = looking.kept_bytes(workshop, sending.send(workshop, post, begun.id).blob)

        def ours() -> str:
            record = sending.send(workshop, post, begun.id)
            return sending.attempt(workshop, post, record.id).state

        def control() -> object:
            with smtplib.SMTP(host, port) as server:
                return server.sendmail(_FROM, [_TO], data)

        result = ratio("Send 2 MB, queued and checked first", 2, *compare(ours, control, 9), f"{len(data)} bytes")
        store.close()
        postbox.close()
        return result
