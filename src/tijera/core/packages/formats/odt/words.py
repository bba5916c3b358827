"""What goes into the document for one picture: its paragraph, its caption, its legend, a line of text beside it.

Sources: ODF 1.2 Part 1 §10.4 (frames), §20.216 (fo:wrap-option and style:wrap), §7.4.13 (sequences). Numbers from memory.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from xml.sax.saxutils import escape

from tijera.core.packages.containers.xmlspan import attributes, printable
from tijera.core.packages.families.odf.names import declared, written
from tijera.core.packages.formats.odt.stylebook import StyleBook
from tijera.core.packages.places.caption_numbers import Numbered
from tijera.core.packages.places.placed import BESIDE, Align, PlacedPicture, clear_of, legend_runs
from tijera.core.packages.places.spots import Spot, Stand
from tijera.core.units import Length, round_half_up

_DECLARED = declared("text", "draw", "svg", "xlink", "fo", "table", "office", "style")
_FLOAT_MARGIN = Length.from_mm(3)
_GAP = Length.from_mm(3)
_LEAST_TEXT = Length.from_mm(15)
_UNITS = 10_000
_MOST_CORNERS = 400


@dataclass(frozen=True)
class OdtWords:
    """Writes what belongs to pictures."""

    styles: StyleBook
    names: Iterator[str]
    """For frames; none that the document uses."""

    def word(self, picture: PlacedPicture, member: str) -> str:
        """A frame with the picture like a word."""
        return self._image(picture, member)

    def blocks(self, picture: PlacedPicture, spot: Spot, member: str, caption: Numbered | None) -> list[str]:
        """The paragraphs (lists, table) of one picture, in order."""
        stand, layout = picture.stand_at(spot), picture.layout
        margin = layout.margin if layout.margin is not None else _FLOAT_MARGIN
        words = bool(caption or picture.legend)
        if stand is Stand.UNDER or (stand in BESIDE and not words):
            return [self._hairline(spot, self._floating(picture, member, stand, margin))]
        floats = stand in BESIDE
        above = caption is not None and layout.caption_above
        below = (caption is not None and not above) or bool(picture.legend)
        own = self._image(picture, member)
        if layout.beside and not floats:
            body = [self._beside(picture, spot, own), self._hairline(spot, "")]
        else:
            body = [self._picture(picture, spot, own, floats=floats, keeps_next=below, after_words=above)]
        if caption is not None:
            text = self._caption(picture, spot, caption, floats=floats, keeps_next=above or bool(picture.legend))
            body = [text, *body] if above else [*body, text]
        body += self._legend(picture)
        if not floats:
            return body
        return [self._hairline(spot, self._box(picture, stand, margin, "".join(body)))]

    def _paragraph(self, style: str, inside: str) -> str:
        return f'<text:p{_DECLARED} text:style-name="{style}">{inside}</text:p>'

    def _paragraph_style(
        self,
        spot: Spot | None,
        align: Align,
        above: int,
        below: int,
        *,
        keeps_next: bool = False,
        more: str = "",
        text: str = "",
        parents: tuple[str, ...] = ("Standard",),
    ) -> str:
        left, right = (0, 0) if spot is None else (spot.indent_left.emu, spot.indent_right.emu)
        sides = (("left", left), ("right", right), ("top", above), ("bottom", below))
        margins = "".join(f' fo:margin-{side}="{written(value)}"' for side, value in sides)
        keeps = ' fo:keep-with-next="always"' if keeps_next else ""
        side = {Align.LEFT: "start", Align.CENTRE: "center", Align.RIGHT: "end"}[align]
        properties = (
            f'<style:paragraph-properties fo:text-align="{side}"{margins} fo:text-indent="0cm"{keeps}'
            f' style:auto-text-indent="false" fo:break-before="auto"{more or " fo:line-height=" + chr(34) + "100%" + chr(34)}/>{text}'
        )
        return self.styles.named("paragraph", properties, self.styles.parent("paragraph", *parents))

    def _picture(
        self, picture: PlacedPicture, spot: Spot, own: str, *, floats: bool, keeps_next: bool, after_words: bool
    ) -> str:
        margin = picture.layout.margin
        clear = (clear_of(spot, picture.height) if margin is None else margin).emu
        style = self._paragraph_style(
            None if floats else spot,
            picture.layout.align,
            0 if floats or after_words else clear,
            0 if floats or keeps_next else clear,
            keeps_next=keeps_next,
        )
        return self._paragraph(style, own)

    def _hairline(self, spot: Spot, inside: str) -> str:
        """A paragraph that takes next to no height: what floats hangs on it, or it ends what a table may not end."""
        style = self._paragraph_style(
            spot, Align.LEFT, 0, 0, more=' fo:line-height="0.5mm"', text='<style:text-properties fo:font-size="1pt"/>'
        )
        return self._paragraph(style, inside)

    def _frame(self, picture: PlacedPicture, style: str, anchor: str, inside: str, *, high: bool = True) -> str:
        height = f' svg:height="{written(picture.height.emu)}"' if high else ""
        named = attributes(**{"draw:style-name": style, "draw:name": next(self.names)})
        return (
            f'<draw:frame{_DECLARED}{named} text:anchor-type="{anchor}" svg:width="{written(picture.width.emu)}"{height}>'
            f"{inside}</draw:frame>"
        )

    def _graphic(self, properties: str) -> str:
        return self.styles.named(
            "graphic", f"<style:graphic-properties{properties}/>", self.styles.parent("graphic", "Graphics")
        )

    def _content(self, picture: PlacedPicture, member: str) -> str:
        words = f"<svg:desc>{escape(printable(picture.description))}</svg:desc>" if picture.description else ""
        return (
            f'<draw:image{attributes(**{"xlink:href": member})} xlink:type="simple" xlink:show="embed"'
            f' xlink:actuate="onLoad"/>{words}'
        )

    def _image(self, picture: PlacedPicture, member: str) -> str:
        zero = "".join(f' fo:margin-{side}="0cm"' for side in ("left", "right", "top", "bottom"))
        style = self._graphic(
            f'{zero} fo:padding="0cm" fo:border="none" style:shadow="none" style:vertical-pos="top"'
            ' style:vertical-rel="baseline" style:mirror="none"'
        )
        return self._frame(picture, style, "as-char", self._content(picture, member))

    def _floating(self, picture: PlacedPicture, member: str, stand: Stand, margin: Length) -> str:
        """A frame with text beside or over it."""
        contour, along = "", ""
        if stand in BESIDE and picture.layout.along_outline and picture.outline:
            along = ' style:wrap-contour="true" style:wrap-contour-mode="outside"'
            contour = _contour(picture)
        inside = self._content(picture, member) + contour
        return self._frame(picture, self._graphic(_wrapping(picture, stand, margin) + along), "paragraph", inside)

    def _box(self, picture: PlacedPicture, stand: Stand, margin: Length, inside: str) -> str:
        """A frame that keeps a picture and its words together while text runs beside them."""
        box = f'<draw:text-box fo:min-height="{written(picture.height.emu)}">{inside}</draw:text-box>'
        style = self._graphic(_wrapping(picture, stand, margin) + ' fo:padding="0cm" fo:border="none"')
        return self._frame(picture, style, "paragraph", box, high=False)

    def _caption(self, picture: PlacedPicture, spot: Spot, caption: Numbered, *, floats: bool, keeps_next: bool) -> str:
        named = self.styles.parent("paragraph", "Caption", "Illustration", "Figure")
        style = self._paragraph_style(
            None if floats else spot,
            picture.layout.align,
            Length.from_mm(1).emu,
            0 if keeps_next else Length.from_mm(3).emu,
            keeps_next=keeps_next,
            text="" if named else '<style:text-properties fo:font-style="italic" fo:font-size="9pt"/>',
            parents=("Caption", "Illustration", "Figure", "Standard"),
        )
        series = caption.series
        sequence = attributes(
            **{
                "text:ref-name": caption.reference,
                "text:name": series.name,
                "text:formula": f"ooow:{series.name}+1",
                "style:num-format": "1",
            }
        )
        return self._paragraph(
            style,
            f"{escape(printable(series.label))}<text:sequence{sequence}>{caption.number}</text:sequence>"
            f"{escape(printable(series.separator + picture.layout.caption))}",
        )

    def _legend(self, picture: PlacedPicture) -> list[str]:
        if not picture.legend:
            return []
        style = self._paragraph_style(None, Align.LEFT, 0, Length.from_mm(1).emu)
        out = []
        for part in legend_runs(picture.legend):
            items = "".join(
                f'<text:list-item text:start-value="{part.start + n}"><text:p text:style-name="{style}">'
                f"{escape(printable(words))}</text:p></text:list-item>"
                for n, words in enumerate(part.texts)
            )
            named = self.styles.numbered_list(letters=part.letters)
            out.append(f'<text:list{_DECLARED} text:style-name="{named}">{items}</text:list>')
        return out

    def _beside(self, picture: PlacedPicture, spot: Spot, own: str) -> str:
        """A table without lines: the picture, and a line of text beside it."""
        wide = Length(picture.width.emu + _GAP.emu)
        rest = max(spot.width - wide, _LEAST_TEXT)
        table = self.styles.named(
            "table",
            f'<style:table-properties style:width="{written((wide + rest).emu)}" table:align="left"'
            f' fo:margin-left="{written(spot.indent_left.emu)}"/>',
        )
        columns = "".join(f'<table:table-column table:style-name="{self._column(width)}"/>' for width in (wide, rest))
        cell = self.styles.named("table-cell", '<style:table-cell-properties fo:padding="0cm" fo:border="none"/>')
        plain = self._paragraph_style(None, Align.LEFT, 0, 0)
        inside = (
            f'<text:p text:style-name="{plain}">{own}</text:p>',
            f'<text:p text:style-name="{plain}">{escape(printable(picture.layout.beside))}</text:p>',
        )
        cells = "".join(
            f'<table:table-cell table:style-name="{cell}" office:value-type="string">{each}</table:table-cell>'
            for each in inside
        )
        named = attributes(**{"table:name": next(self.names), "table:style-name": table})
        return f"<table:table{_DECLARED}{named}>{columns}<table:table-row>{cells}</table:table-row></table:table>"

    def _column(self, width: Length) -> str:
        return self.styles.named(
            "table-column", f'<style:table-column-properties style:column-width="{written(width.emu)}"/>'
        )


def _wrapping(picture: PlacedPicture, stand: Stand, margin: Length) -> str:
    clear = "".join(f' fo:margin-{side}="{written(margin.emu)}"' for side in ("left", "right", "top", "bottom"))
    place = ' style:vertical-pos="top" style:vertical-rel="paragraph" style:horizontal-rel="paragraph"'
    if stand is Stand.UNDER:
        side = {Align.LEFT: "left", Align.CENTRE: "center", Align.RIGHT: "right"}[picture.layout.align]
        return f'{clear}{place} style:horizontal-pos="{side}" style:wrap="run-through" style:run-through="background"'
    text, side = ("left", "right") if stand is Stand.TEXT_LEFT else ("right", "left")
    return (
        f'{clear}{place} style:horizontal-pos="{side}" style:wrap="{text}" style:number-wrapped-paragraphs="no-limit"'
    )


def _contour(picture: PlacedPicture) -> str:
    """The freehand outline that text runs along (ODF 1.2 Part 1 §10.4.11.2; number from memory)."""
    corners = picture.outline or ()
    step = max(-(-len(corners) // _MOST_CORNERS), 1)
    points = " ".join(
        f"{round_half_up(min(max(x, 0.0), 1.0) * _UNITS)},{round_half_up(min(max(y, 0.0), 1.0) * _UNITS)}"
        for x, y in corners[::step]
    )
    return (
        f'<draw:contour-polygon svg:width="{written(picture.width.emu)}" svg:height="{written(picture.height.emu)}"'
        f' svg:viewBox="0 0 {_UNITS} {_UNITS}" draw:points="{points}" draw:recreate-on-edit="false"/>'
    )
