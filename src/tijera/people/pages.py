"""The page that people sign in on: without a script, in the colours of the application."""

from __future__ import annotations

from html import escape
from urllib.parse import quote

SIGN_IN_POLICY = (
    "default-src 'none'; style-src 'nonce-{nonce}'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
)


def sign_in_page(nonce: str, to: str, refusal: str, name: str) -> str:
    """The page; a refusal stands above the fields, and the name that was typed is kept."""
    said = f'<p class="said" role="alert">{escape(refusal)}</p>' if refusal else ""
    first, second = ("", " autofocus") if name else (" autofocus", "")
    return f"""<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Tijera: sign in</title>
<style nonce="{nonce}">
body {{ margin: 0; min-height: 100vh; display: grid; place-items: center; background: #143a35; font: 16px/1.5 system-ui, sans-serif; color: #20282a; }}
main {{ box-sizing: border-box; width: min(24rem, calc(100vw - 32px)); padding: 28px 32px; background: #fbf8f1; border-top: 4px dashed #d3432a; }}
h1 {{ margin: 0 0 16px; font-size: 24px; }}
label {{ display: block; margin: 0 0 4px; font-weight: 600; }}
input {{ box-sizing: border-box; width: 100%; margin: 0 0 16px; padding: 9px 10px; border: 1px solid #8a8171; border-radius: 4px; background: #fff; font: inherit; }}
button {{ padding: 10px 18px; border: 0; border-radius: 4px; background: #20282a; color: #fbf8f1; font: inherit; font-weight: 600; cursor: pointer; }}
input:focus-visible, button:focus-visible {{ outline: 2px solid #20282a; outline-offset: 2px; }}
.said {{ margin: 0 0 16px; padding: 8px 12px; border-left: 6px solid #d3432a; background: #fff; }}
small {{ display: block; margin-top: 16px; color: #5b5f5a; font-size: 14px; }}
</style>
</head>
<body>
<main>
<h1>Sign in to Tijera</h1>
{said}
<form method="post" action="/sign-in?to={escape(quote(to))}">
<label for="name">Name</label>
<input id="name" name="name" value="{escape(name[:200])}" autocomplete="username" maxlength="200" required{first}>
<label for="password">Password</label>
<input id="password" name="password" type="password" autocomplete="current-password" maxlength="1000" required{second}>
<button>Sign in</button>
</form>
<small>Whoever runs this server makes accounts with <code>tijera people add</code>, and gives another password with <code>tijera people password</code>.</small>
</main>
</body>
</html>
"""
