"""Who is let in: the user's own browser, by a cookie, and the user's own command line.

Any program of the machine, and any other user of it, can reach the loopback address. So a key stands in the address that the
start prints; a browser that opens it gets a cookie that is made from the secret of this installation, and needs the key no more.
The key is never in a page: the answer to it is a redirection without it. Cookies are not parted by port (RFC 6265 §8.5), so the
cookie's name is this installation's own.
"""

from __future__ import annotations

import hashlib
import hmac
import secrets
from http.cookies import CookieError, SimpleCookie

from starlette.datastructures import Headers

ENTER = "/enter"
PUBLIC = frozenset({ENTER, "/manifest.webmanifest", "/icon-192.png", "/icon-512.png"})
"""What browsers fetch without cookies, and the door itself."""
_KEEP_S = 400 * 24 * 3600
"""As long as browsers keep a cookie at most (RFC 6265bis §5.5)."""


class Entry:
    """What lets in."""

    def __init__(self, secret: bytes) -> None:
        """`secret` is the installation's own; the key is new with every start."""
        self._secret = secret
        self.key = secrets.token_urlsafe(24)
        self.cookie = f"tijera-{self._made('name')[:12]}"

    def _made(self, of: str) -> str:
        return hmac.new(self._secret, of.encode("ascii"), hashlib.sha256).hexdigest()

    @property
    def command(self) -> str:
        """What the command line says of itself (RFC 6750 §2.1)."""
        return self._made("command line")

    @property
    def cookie_value(self) -> str:
        """What a browser shows that was let in."""
        return self._made("browser")

    def opens(self, key: str) -> bool:
        """Whether it is the key of this start."""
        return hmac.compare_digest(key.encode(), self.key.encode())

    def admits(self, headers: Headers) -> bool:
        """Whether a request comes from somebody who was let in."""
        scheme, _, token = headers.get("authorization", "").partition(" ")
        if scheme.lower() == "bearer" and hmac.compare_digest(token.strip().encode(), self.command.encode()):
            return True
        try:
            found = SimpleCookie(headers.get("cookie", "")).get(self.cookie)
        except CookieError:
            return False
        return found is not None and hmac.compare_digest(found.value.encode(), self.cookie_value.encode())

    def set_cookie(self) -> str:
        """The header that a browser keeps the cookie by: for no script, and for no page of another site."""
        return f"{self.cookie}={self.cookie_value}; Path=/; Max-Age={_KEEP_S}; HttpOnly; SameSite=Strict"


def own_path(wanted: str) -> str:
    """Where to go from the door: a path of ours, else the first page."""
    is_ours = wanted.startswith("/") and not wanted.startswith("//") and "\\" not in wanted
    return wanted if is_ours and wanted.isprintable() and wanted.isascii() else "/"


def locked_page(nonce: str) -> str:
    """What a browser sees that was not let in: how to get in, and nothing else."""
    return f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Tijera: not let in</title>
<style nonce="{nonce}">
body {{ margin: 0; min-height: 100vh; display: grid; place-items: center; background: #143a35; font: 16px/1.5 system-ui, sans-serif; color: #20282a; }}
main {{ max-width: 34rem; margin: 24px; padding: 28px 32px; background: #fbf8f1; border-top: 4px dashed #d3432a; }}
h1 {{ margin: 0 0 12px; font-size: 24px; }}
p, ol {{ margin: 0 0 12px; }}
li {{ margin: 0 0 8px; }}
code {{ padding: 1px 5px; background: #f1eadd; font-size: 14px; }}
</style>
</head>
<body>
<main>
<h1>This browser was not let in yet</h1>
<p>Tijera keeps your clippings and files for you alone. A browser is let in once, by an address that only you can read:</p>
<ol>
<li>Open the whole address that Tijera printed when it was started, with what stands behind <code>key=</code>.</li>
<li>Or type <code>tijera address</code> in a terminal, and open what it prints.</li>
</ol>
<p>If cookies are deleted when this browser is closed, that has to be done each time.</p>
</main>
</body>
</html>
"""
