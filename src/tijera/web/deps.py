"""What the routers get from the application, and answers that are pictures."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Annotated, Any

from fastapi import Depends, Request
from fastapi.responses import Response

from tijera.core.budget.search import Run, one_by_one
from tijera.core.imaging.kinds import JPEG, PNG, media_type_of
from tijera.usecases.jobs import Jobs
from tijera.usecases.linking import Links
from tijera.usecases.longpages import LongPages
from tijera.usecases.mailing import Mailing
from tijera.usecases.postman import Postman
from tijera.usecases.reading import Reader
from tijera.usecases.retaking import Looks
from tijera.usecases.watchman import Watchman
from tijera.usecases.workshop import Example, Workshop

if TYPE_CHECKING:
    from tijera.links.listener import LinkListener
    from tijera.postbox.server import Postbox

FOREVER = "private, max-age=31536000, immutable"
"""For addresses that carry the version of what they show."""


@dataclass(frozen=True)
class Services:
    """What the command line wires together."""

    workshop: Workshop
    jobs: Jobs
    examples: Sequence[Example] = ()
    long_pages: LongPages = field(default_factory=LongPages)
    side_by_side: Run = one_by_one
    """How the parts of long work are carried out."""
    looks: Looks = field(default_factory=Looks)
    """Clippings that were looked at anew, and not decided yet."""
    mailing: Mailing | None = None
    postman: Postman | None = None
    """Who carries messages off; None where nothing can be sent."""
    postbox: Postbox | None = None
    """The stand-in for a mail server; None where it is not there."""

    watchman: Watchman | None = None
    """Who goes the rounds; None where nobody does."""
    reader: Reader | None = None
    """Who reads the words on pictures; None where nobody can."""
    links: Links | None = None
    link_listener: LinkListener | None = None
    """Where others reach links; None where nobody can."""

    is_shared: bool = False
    """Whether several people share the server: things of the machine itself are off then."""

    def close(self) -> None:
        """End all that runs beside the requests, and close the store."""
        if self.watchman is not None:
            self.watchman.close()
        if self.reader is not None:
            self.reader.close()
        if self.link_listener is not None:
            self.link_listener.close()
        if self.postman is not None:
            self.postman.close()
        if self.postbox is not None:
            self.postbox.close()
        self.jobs.close()
        self.workshop.store.close()


def _services(request: Request) -> Services:
    services: Services = request.app.state.services
    return services


def _workshop(request: Request) -> Workshop:
    return _services(request).workshop


ServicesDep = Annotated[Services, Depends(_services)]
WorkshopDep = Annotated[Workshop, Depends(_workshop)]
PICTURE: dict[int | str, dict[str, Any]] = {
    200: {"content": {PNG.media_type: {}, JPEG.media_type: {}}, "description": "The picture"}
}
RAW_BODY: dict[str, Any] = {"requestBody": {"required": True, "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}}}  # fmt: skip


def png(data: bytes, *, forever: bool = False, extension: str = "png") -> Response:
    """A picture as an answer, PNG if nothing else is said."""
    headers = {"Cache-Control": FOREVER if forever else "no-store"}
    return Response(data, media_type=media_type_of(extension), headers=headers)
