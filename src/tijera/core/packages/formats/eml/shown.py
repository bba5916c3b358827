"""How a message arrives: where pictures show, and where they don't.

Its HTML is made safe to look at by a sanitiser that parses as browsers do (nh3, which is ammonia on html5ever): only elements and
attributes that are known to be harmless stay, nothing is fetched, pictures that come with it are put in as data.
"""

from __future__ import annotations

import base64
import re
from dataclasses import dataclass

import nh3
from lxml import etree, html
from lxml.html import defs

from tijera.core.imaging.kinds import TIFF, sniff
from tijera.core.packages.formats.eml.document import Attachment, EmlDocument
from tijera.core.packages.formats.eml.transfer import decode, text_of

_KEPT = frozenset(
    [
        "a",
        "abbr",
        "address",
        "b",
        "big",
        "blockquote",
        "br",
        "caption",
        "center",
        "cite",
        "code",
        "col",
        "colgroup",
        "dd",
        "del",
        "div",
        "dl",
        "dt",
        "em",
        "figcaption",
        "figure",
        "font",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "hr",
        "i",
        "img",
        "ins",
        "li",
        "main",
        "mark",
        "ol",
        "p",
        "pre",
        "q",
        "s",
        "section",
        "small",
        "span",
        "strike",
        "strong",
        "sub",
        "sup",
        "table",
        "tbody",
        "td",
        "tfoot",
        "th",
        "thead",
        "tr",
        "tt",
        "u",
        "ul",
        "article",
    ]
)
_WITHOUT_WORDS = frozenset(
    ["script", "style", "head", "title", "iframe", "template", "noscript", "noembed", "noframes"]
)
"""What stands in these is for a program, or for a reader that this is not. Of all else that is not kept the words stay."""
_ATTRIBUTES = frozenset(
    [
        "align",
        "alt",
        "bgcolor",
        "border",
        "cellpadding",
        "cellspacing",
        "color",
        "colspan",
        "dir",
        "face",
        "height",
        "lang",
        "nowrap",
        "rowspan",
        "size",
        "start",
        "style",
        "title",
        "type",
        "valign",
        "value",
        "width",
    ]
)
_HTML = (defs.tags | _KEPT | _WITHOUT_WORDS | {"image"}) - {"svg", "math"}
_TAG = re.compile(r"<(/?)([A-Za-z][^\s/>]*)")
_UNSAFE_STYLE = re.compile(r"url\s*\(|expression|@import|javascript|behavior|position\s*:|[<>\\]", re.IGNORECASE)
_MOST_HTML = 2_000_000


@dataclass(frozen=True)
class Arrival:
    """What a reader of the message sees."""

    html: str
    """Safe to show; empty for a message without HTML."""
    plain: str
    """What stands where no HTML is shown."""
    listed: tuple[Attachment, ...]
    """What hangs on it where pictures show."""
    listed_plain: tuple[Attachment, ...]
    """What hangs on it where they don't: what the body would show as well."""


def arrival(document: EmlDocument) -> Arrival:
    """How a message arrives."""
    text = document.html_text[0]
    plain = "" if document.plain is None else text_of(document.plain)[0]
    if not plain.strip():
        plain = "\n\n".join(block.text for block in document.outline.body.blocks if block.text)
    body = {id(each) for each in (document.html, document.plain) if each is not None}
    every = tuple(
        Attachment(member, leaf.file_name or member, leaf.type, leaf.end - leaf.start)
        for member, leaf in document.members.items()
        if id(leaf) not in body
    )
    return Arrival(safe_html(document, text) if text.strip() else "", plain.strip(), document.attachments, every)


def safe_html(document: EmlDocument, text: str) -> str:
    """The HTML of a message, made safe; empty where it is beyond reason.

    It is parsed as browsers parse it (HTML Standard §13.2) and written anew from what is known to be harmless. All its words
    stay, those of forms and of what is embedded as well. Nothing refers to anywhere else.
    """
    if len(text) > _MOST_HTML:
        return ""

    def kept(tag: str, name: str, value: str) -> str | None:
        if tag == "img" and name == "src":
            return _as_data(document, value)
        return None if name == "style" and _UNSAFE_STYLE.search(value) else value

    clean = nh3.clean(
        _TAG.sub(_as_html, text),
        tags=set(_KEPT),
        clean_content_tags=set(_WITHOUT_WORDS),
        attributes={"*": set(_ATTRIBUTES), "img": {*_ATTRIBUTES, "src"}},
        attribute_filter=kept,
        url_schemes={"cid", "data"},
        link_rel=None,
    )
    return _with_words_for_missing(f"<div>{clean}</div>")


def _as_html(tag: re.Match[str]) -> str:
    """A tag, renamed where HTML does not know its element: what is named as a part of a drawing or a formula (HTML Standard
    §13.2.6.5, foreign content) would be dropped with its words, wherever it stands.
    """
    end, name = tag.groups()
    return tag[0] if name.lower() in _HTML else f"<{end}x-words"


def _with_words_for_missing(clean: str) -> str:
    """Where a picture lies elsewhere, its place says so."""
    if "<img" not in clean:
        return clean
    root = html.fragment_fromstring(clean, parser=html.HTMLParser(no_network=True, huge_tree=True))
    for node in root.iter("img"):
        if not node.get("src"):
            node.set("alt", node.get("alt") or "a picture that lies elsewhere")
    return str(etree.tostring(root, encoding="unicode", method="html"))


def _as_data(document: EmlDocument, source: str) -> str | None:
    """A picture that comes with the message as a `data:` address; None for all others."""
    member = document.member_of(source)
    if member is None:
        return None
    content = decode(document.members[member])
    kind = sniff(content)
    # Browsers show no TIFF.
    return (
        None if kind in (None, TIFF) else f"data:{kind.media_type};base64,{base64.b64encode(content).decode('ascii')}"
    )
