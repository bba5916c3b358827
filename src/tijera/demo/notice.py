"""A made-up message of others: a question from the pier, with HTML, plain text and a sheet of paper attached."""

from __future__ import annotations

NAME = "Ferry notice.eml"
_LINES = (
    "From: Marit Sand <marit.sand@pier.quillhaven.example>",
    "To: Harbour office <office@quillhaven.example>",
    "Subject: Low water on Friday: what do we put on the board?",
    "Date: Tue, 24 Nov 2026 08:12:00 +0000",
    "Message-ID: <20261124.0812.pier@quillhaven.example>",
    "MIME-Version: 1.0",
    'Content-Type: multipart/mixed; boundary="pier-24-11"',
    "",
    "--pier-24-11",
    'Content-Type: multipart/alternative; boundary="pier-text"',
    "",
    "--pier-text",
    "Content-Type: text/plain; charset=utf-8",
    "",
    "Good morning,",
    "",
    "on Friday the Heron cannot lie at the east steps at low water.",
    "",
    "Could you send me the tide window of the timetable program?",
    "",
    "Marit, pier",
    "--pier-text",
    "Content-Type: text/html; charset=utf-8",
    "Content-Transfer-Encoding: quoted-printable",
    "",
    '<html><body style=3D"font-family:sans-serif">',
    "<h2>Low water on Friday</h2>",
    "<p>Good morning,</p>",
    "<p>on Friday the <b>Heron</b> cannot lie at the east steps at low water.</p>",
    "<p>Could you send me the tide window of the timetable program, the part with=",
    " the two rows in the middle=3F</p>",
    "<p>Marit, pier</p>",
    "</body></html>",
    "--pier-text--",
    "--pier-24-11",
    "Content-Type: text/csv; charset=utf-8",
    'Content-Disposition: attachment; filename="moorings.csv"',
    "",
    "berth,boat",
    "east steps,Heron",
    "west steps,Teal",
    "--pier-24-11--",
    "",
)


def make_notice() -> bytes:
    """The message's bytes; the same every time."""
    return "\r\n".join(_LINES).encode("utf-8")
