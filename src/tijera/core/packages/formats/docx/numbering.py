"""Numbered lists of our own, added to the numbering of a document (ECMA-376 Part 1 §17.9; numbers from memory)."""

from __future__ import annotations

from dataclasses import dataclass, field

from tijera.core.packages.containers.tree_comparison import cut_out, same_tree
from tijera.core.packages.containers.xmlspan import Splice, XmlPart, whole_number
from tijera.core.packages.formats.docx.names import DocxNames

_MOST_ID = 2**31 - 10_000
CONTENT_TYPE = "application/vnd.openxmlformats-officedocument.wordprocessingml.numbering+xml"


@dataclass
class Lists:
    """The lists that are needed; `part` is the document's own numbering, None where it has none."""

    names: DocxNames
    part: XmlPart | None
    _made: list[tuple[int, int, bool, int]] = field(default_factory=list)

    def __post_init__(self) -> None:
        q, root = self.names.q, None if self.part is None else self.part.root
        abstract = () if root is None else root.iter(q("abstractNum"))
        numbers = () if root is None else root.iter(q("num"))
        self._abstract = (
            max((whole_number(n.get(q("abstractNumId")), 0, most=_MOST_ID) for n in abstract), default=-1) + 1
        )
        self._number = max((whole_number(n.get(q("numId")), 0, most=_MOST_ID) for n in numbers), default=0) + 1

    def begin(self, *, letters: bool, start: int) -> int:
        """A new list that begins at a number; its id."""
        made = (self._abstract + len(self._made), self._number + len(self._made), letters, start)
        self._made.append(made)
        return made[1]

    def written(self) -> bytes | None:
        """The numbering part with the new lists; None where none was begun."""
        if not self._made:
            return None
        part = self.part or XmlPart(
            "numbering.xml",
            f'<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<w:numbering xmlns:w="{self.names.w}"/>'.encode(),
        )
        q = self.names.q
        abstract = "".join(_abstract(self.names, own, start, letters=letters) for own, _, letters, start in self._made)
        numbers = "".join(
            f'<w:num xmlns:w="{self.names.w}" w:numId="{number}"><w:abstractNumId w:val="{own}"/></w:num>'
            for own, number, _, _ in self._made
        )
        first = part.root.find(q("num"))
        behind = part.root.find(q("numIdMacAtCleanup"))
        before = first if first is not None else behind
        if before is None:
            return part.spliced([part.append_to_root(abstract + numbers)])
        at = part.span(before).start
        last = part.append_to_root(numbers)
        if behind is not None:
            end = part.span(behind).start
            last = Splice(end, end, numbers)
        return part.spliced([Splice(at, at, abstract), last])

    def is_whole(self, written: bytes) -> bool:
        """Whether a written part without the new lists is what it was."""
        root, q = XmlPart("numbering.xml", written).root, self.names.q
        own = {str(made[0]) for made in self._made}, {str(made[1]) for made in self._made}
        for node in [*root.iter(q("abstractNum"))]:
            if node.get(q("abstractNumId")) in own[0]:
                cut_out(node)
        for node in [*root.iter(q("num"))]:
            if node.get(q("numId")) in own[1]:
                cut_out(node)
        return len(root) == 0 if self.part is None else same_tree(self.part.root, root)


def _abstract(names: DocxNames, abstract: int, start: int, *, letters: bool) -> str:
    kind = "upperLetter" if letters else "decimal"
    left = "start" if names.strict else "left"
    return (
        f'<w:abstractNum xmlns:w="{names.w}" w:abstractNumId="{abstract}"><w:multiLevelType w:val="singleLevel"/>'
        f'<w:lvl w:ilvl="0"><w:start w:val="{start}"/><w:numFmt w:val="{kind}"/><w:lvlText w:val="%1"/>'
        f'<w:lvlJc w:val="{left}"/><w:pPr><w:ind w:{left}="425" w:hanging="425"/></w:pPr></w:lvl></w:abstractNum>'
    )
