"""How a message arrives: where pictures show, and where they don't.

Its HTML is made safe to look at: only elements and attributes that are known to be harmless stay, nothing is fetched,
pictures that come with it are put in as data.
"""

from __future__ import annotations

import base64
import re
from dataclasses import dataclass
from typing import cast

from lxml import etree, html

from tijera.core.imaging.kinds import TIFF, sniff
from tijera.core.packages.containers.xmlspan import Element
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
        "body",
    ]
)
_DROPPED_WHOLE = frozenset(
    [
        "script",
        "style",
        "head",
        "title",
        "iframe",
        "object",
        "embed",
        "form",
        "svg",
        "math",
        "template",
        "noscript",
        "video",
        "audio",
    ]
)
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
    """The HTML of a message, made safe; empty where it can't be read or is beyond reason."""
    if len(text) > _MOST_HTML:
        return ""
    parser = html.HTMLParser(no_network=True, huge_tree=False, remove_comments=True, remove_pis=True)
    try:
        root = html.document_fromstring(text, parser=parser)
    except (etree.ParserError, etree.XMLSyntaxError, ValueError):
        return ""
    body = root.find("body")
    if body is None:
        return ""
    _clean(document, body)
    body.tag = "div"
    return str(etree.tostring(body, encoding="unicode", method="html"))


def _clean(document: EmlDocument, root: Element) -> None:
    for node in list(root.iter()):
        if not isinstance(node.tag, str) or node.tag in _DROPPED_WHOLE:
            _drop(node, whole=True)
        elif node.tag not in _KEPT:
            _drop(node, whole=False)
        else:
            _strip(document, node)


def _drop(node: Element, *, whole: bool) -> None:
    """Take an element out, with all in it or leaving that; the text behind it stays."""
    if node.getparent() is None:
        return
    # Every element that the HTML parser makes has these; lxml's types leave it out.
    element = cast(html.HtmlMixin, node)
    if whole:
        element.drop_tree()
    else:
        element.drop_tag()


def _strip(document: EmlDocument, node: Element) -> None:
    source = node.get("src", "") if node.tag == "img" else ""
    for name, value in list(node.attrib.items()):
        unsafe = name == "style" and _UNSAFE_STYLE.search(str(value)) is not None
        if name not in _ATTRIBUTES or unsafe:
            del node.attrib[name]
    if node.tag == "img":
        data = _as_data(document, source)
        if data is None:
            node.set("alt", node.get("alt") or "a picture that lies elsewhere")
        else:
            node.set("src", data)


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
