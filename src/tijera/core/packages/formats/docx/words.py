"""What goes into the document for one picture: its paragraph, its caption, its legend, a line of text beside it.

Order in a `w:pPr`: ECMA-376 Part 1 §17.3.1.26; frames of paragraphs: §17.3.1.11. Numbers from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from xml.sax.saxutils import escape

from tijera.core.packages.containers.xmlspan import printable
from tijera.core.packages.formats.docx.captions import field
from tijera.core.packages.formats.docx.drawing import anchored_run, run
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.packages.formats.docx.numbering import Lists
from tijera.core.packages.places.caption_numbers import Numbered
from tijera.core.packages.places.placed import BESIDE, Align, Layout, PlacedPicture, clear_of, legend_runs
from tijera.core.packages.places.spots import Spot, Stand
from tijera.core.units import EMU_PER_TWIP, Length

_FLOAT_MARGIN = Length.from_mm(3)
_BESIDE_GAP = 170
"""Twips between a picture and the text beside it in a table: 3 mm."""
_LEAST_TEXT = 1_000


@dataclass(frozen=True)
class DocxWords:
    """Writes what belongs to pictures; `caption_style` is the id of the document's own style for captions."""

    names: DocxNames
    lists: Lists
    caption_style: str | None

    def word(self, picture: PlacedPicture, relationship_id: str, drawing_id: int) -> str:
        """A run with the picture like a word."""
        return run(self.names, picture, relationship_id, drawing_id)

    def blocks(
        self, picture: PlacedPicture, spot: Spot, relationship_id: str, drawing_id: int, caption: Numbered | None
    ) -> list[str]:
        """The paragraphs (and table) of one picture, in order; the last one is always a paragraph."""
        stand, layout = picture.stand_at(spot), picture.layout
        margin = layout.margin if layout.margin is not None else _FLOAT_MARGIN
        words = bool(caption or picture.legend)
        if stand is Stand.UNDER or (stand in BESIDE and not words):
            anchored = anchored_run(self.names, picture, stand, margin.emu, relationship_id, drawing_id)
            return [self._hairline(spot, anchored)]
        frame = self._frame(picture, stand, margin) if stand in BESIDE else ""
        own = run(self.names, picture, relationship_id, drawing_id)
        above = caption is not None and layout.caption_above
        below = (caption is not None and not above) or bool(picture.legend)
        if layout.beside and not frame:
            body = [self._beside(picture, spot, own), self._hairline(spot, "")]
        else:
            body = [self._picture(picture, spot, own, frame, keeps_next=below, after_words=above)]
        if caption is not None:
            text = self._caption(layout, spot, caption, frame, keeps_next=above or bool(picture.legend))
            body = [text, *body] if above else [*body, text]
        return [*body, *self._legend(picture, spot, frame)]

    def _paragraph(self, properties: str, runs: str) -> str:
        return f'<w:p xmlns:w="{self.names.w}"><w:pPr>{properties}</w:pPr>{runs}</w:p>'

    def _indents(self, spot: Spot) -> str:
        left, right = ("start", "end") if self.names.strict else ("left", "right")
        sides = ((left, spot.indent_left), (right, spot.indent_right))
        return (
            "<w:ind"
            + "".join(f' w:{side}="{value.emu // EMU_PER_TWIP}"' for side, value in sides)
            + ' w:firstLine="0"/>'
        )

    def _align(self, align: Align) -> str:
        left, right = ("start", "end") if self.names.strict else ("left", "right")
        return f'<w:jc w:val="{ {Align.LEFT: left, Align.CENTRE: "center", Align.RIGHT: right}[align] }"/>'

    def _picture(
        self, picture: PlacedPicture, spot: Spot, own: str, frame: str, *, keeps_next: bool, after_words: bool
    ) -> str:
        """The paragraph round a picture on lines of its own. Exact line spacing would clip it, so it has its own."""
        margin = picture.layout.margin
        clear = (clear_of(spot, picture.height) if margin is None else margin).emu // EMU_PER_TWIP
        before = 0 if frame or after_words else clear
        after = 0 if frame or keeps_next else clear
        return self._paragraph(
            f"{'<w:keepNext/>' if keeps_next else ''}{frame}"
            f'<w:spacing w:before="{before}" w:after="{after}" w:line="240" w:lineRule="auto"/>'
            f"{'' if frame else self._indents(spot)}{self._align(picture.layout.align)}",
            own,
        )

    def _hairline(self, spot: Spot, runs: str) -> str:
        """A paragraph that takes next to no height: what floats hangs on it, or it ends what a table may not end."""
        return self._paragraph(
            f'<w:spacing w:before="0" w:after="0" w:line="20" w:lineRule="exact"/>{self._indents(spot)}', runs
        )

    def _frame(self, picture: PlacedPicture, stand: Stand, margin: Length) -> str:
        """The frame that keeps a picture and its words together while text runs beside them."""
        side = "right" if stand is Stand.TEXT_LEFT else "left"
        width, clear = picture.width.emu // EMU_PER_TWIP + 1, margin.emu // EMU_PER_TWIP
        return (
            f'<w:framePr w:w="{width}" w:hSpace="{clear}" w:vSpace="{clear}" w:wrap="around" w:vAnchor="text"'
            f' w:hAnchor="text" w:xAlign="{side}" w:y="1"/>'
        )

    def _caption(self, layout: Layout, spot: Spot, caption: Numbered, frame: str, *, keeps_next: bool) -> str:
        style = "" if self.caption_style is None else f'<w:pStyle w:val="{escape(self.caption_style)}"/>'
        look = "" if style else '<w:rPr><w:i/><w:sz w:val="18"/></w:rPr>'
        series = caption.series

        def text(words: str) -> str:
            return f'<w:r>{look}<w:t xml:space="preserve">{escape(printable(words))}</w:t></w:r>'

        # Behind its number a caption says what it says; a document without a style for it gets a plain look.
        return self._paragraph(
            f"{style}{'<w:keepNext/>' if keeps_next else ''}<w:keepLines/>{frame}"
            f"{'' if frame else self._indents(spot)}{self._align(layout.align)}",
            text(series.label) + field(self.names.w, series, caption.number) + text(series.separator + layout.caption),
        )

    def _legend(self, picture: PlacedPicture, spot: Spot, frame: str) -> list[str]:
        out = []
        left = "start" if self.names.strict else "left"
        indent = spot.indent_left.emu // EMU_PER_TWIP + 425
        for part in legend_runs(picture.legend):
            list_id = self.lists.begin(letters=part.letters, start=part.start)
            for words in part.texts:
                text = f'<w:r><w:t xml:space="preserve">{escape(printable(words))}</w:t></w:r>'
                properties = (
                    f'{frame}<w:numPr><w:ilvl w:val="0"/><w:numId w:val="{list_id}"/></w:numPr>'
                    f'<w:spacing w:before="0" w:after="40"/><w:ind w:{left}="{indent}" w:hanging="425"/>'
                )
                out.append(self._paragraph(properties, text))
        return out

    def _beside(self, picture: PlacedPicture, spot: Spot, own: str) -> str:
        """A table without lines: the picture, and a line of text beside it."""
        wide = picture.width.emu // EMU_PER_TWIP + _BESIDE_GAP
        rest = max(spot.width.emu // EMU_PER_TWIP - wide, _LEAST_TEXT)
        left = "start" if self.names.strict else "left"
        none = "".join(
            f'<w:{side} w:val="nil"/>'
            for side in ("top", left, "bottom", "end" if self.names.strict else "right", "insideH", "insideV")
        )
        plain = '<w:pPr><w:spacing w:before="0" w:after="0" w:line="240" w:lineRule="auto"/></w:pPr>'
        text = f'<w:r><w:t xml:space="preserve">{escape(printable(picture.layout.beside))}</w:t></w:r>'
        right = "end" if self.names.strict else "right"
        gap = f'<w:tcMar><w:{left} w:w="0" w:type="dxa"/><w:{right} w:w="{_BESIDE_GAP}" w:type="dxa"/></w:tcMar>'
        return (
            f'<w:tbl xmlns:w="{self.names.w}"><w:tblPr><w:tblW w:w="{wide + rest}" w:type="dxa"/>'
            f'<w:tblInd w:w="{spot.indent_left.emu // EMU_PER_TWIP}" w:type="dxa"/><w:tblBorders>{none}</w:tblBorders>'
            '<w:tblLayout w:type="fixed"/></w:tblPr>'
            f'<w:tblGrid><w:gridCol w:w="{wide}"/><w:gridCol w:w="{rest}"/></w:tblGrid><w:tr><w:trPr><w:cantSplit/></w:trPr>'
            f'<w:tc><w:tcPr><w:tcW w:w="{wide}" w:type="dxa"/>{gap}</w:tcPr><w:p>{plain}{own}</w:p></w:tc>'
            f'<w:tc><w:tcPr><w:tcW w:w="{rest}" w:type="dxa"/></w:tcPr><w:p>{plain}{text}</w:p></w:tc></w:tr></w:tbl>'
        )
