"""Splicing: positions found, the rest untouched."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from lxml import etree

from tijera.core.errors import DoctypeRefused, PartMalformed
from tijera.core.packages.containers.xmlspan import Splice, XmlPart, attributes

_TRICKY = (
    '<?xml version="1.0"?><!-- <p> --><a x=">" y=\'"\'><b/><![CDATA[ <c> ]]>'
    "<?pi <d> ?><p:c xmlns:p='u' p:t=\"a>b\">text &gt; more</p:c ></a>"
)


def _trees() -> st.SearchStrategy[str]:
    text = st.text("ab <>&\"'é€\n", max_size=6)

    def element(children: st.SearchStrategy[list[str]]) -> st.SearchStrategy[str]:
        def build(parts: list[str], value: str, name: str) -> str:
            escaped = value.replace("&", "&amp;").replace("<", "&lt;").replace('"', "&quot;")
            return f'<{name} v="{escaped}">{"".join(parts)}</{name}>' if parts else f'<{name} v="{escaped}" />'

        return st.builds(build, children, text, st.sampled_from(["a", "w:p", "b-c"]))

    leaf = element(st.just([]))
    inner = st.recursive(leaf, lambda each: element(st.lists(each, max_size=3)), max_leaves=8)
    return inner.map(lambda xml: f'<root xmlns:w="u"><!-- > -->{xml}</root>')


class Locating(unittest.TestCase):
    """The n-th start tag is the n-th element."""

    def test_comments_sections_and_quoted_brackets_don_t_confuse_it(self) -> None:
        """Every trap in one part."""
        part = XmlPart("t", _TRICKY.encode())
        found = [part.text[span.start : span.end] for span in part.spans]
        self.assertEqual(found[1], "<b/>")
        self.assertEqual(found[2], "<p:c xmlns:p='u' p:t=\"a>b\">text &gt; more</p:c >")
        self.assertEqual(found[0][:8], '<a x=">"')

    @given(_trees())
    def test_every_element_is_where_its_span_says(self, xml: str) -> None:
        """The text of each span parses to the element itself."""
        plain = xml.replace("<!-- > -->", "")
        declared = f"<?xml version='1.0'?>\n{plain}"
        for each in (xml, plain, declared):
            part = XmlPart("t", each.encode())
            self.check_spans(part)

    def test_many_are_found_as_the_first_few_are(self) -> None:
        """Of a part with a thousand elements each stands where reading every tag says, whichever is asked first."""
        xml = f"<r>{''.join(f'<a n={chr(34)}{n}{chr(34)}><b/>x<c><d>y</d></c></a>' for n in range(250))}</r>"
        part, asked = XmlPart("t", xml.encode()), XmlPart("t", xml.encode())
        for index in [*range(1_000, 900, -1), *range(900)]:
            self.assertEqual(asked.span(asked.elements[index]), part.spans[index])

    def check_spans(self, part: XmlPart) -> None:
        """The text of each span is the element's own, and what reading every tag says."""
        for element in part.elements:
            span = part.span(element)
            self.assertEqual(span, part.spans[part.order[element]])
            again = etree.fromstring(f'<x xmlns:w="u">{part.text[span.start : span.end]}</x>')[0]
            self.assertEqual(dict(again.attrib), dict(element.attrib))
            self.assertEqual(again.tag, element.tag)

    @given(_trees(), st.data())
    def test_a_splice_changes_nothing_else(self, xml: str, data: st.DataObject) -> None:
        """Taken out again, the part is the same to the byte, in every encoding."""
        for encoding in ("utf-8", "utf-16"):
            declared = f'<?xml version="1.0" encoding="{encoding}"?>{xml}'.encode(encoding)
            part = XmlPart("t", declared)
            span = part.spans[data.draw(st.integers(0, len(part.spans) - 1))]
            at = data.draw(st.sampled_from([span.start, span.end]))
            longer = XmlPart("t", part.spliced([Splice(at, at, "€new")]))._decoded[2]
            self.assertEqual(longer[at : at + 4], "€new")
            self.assertEqual(longer[:at] + longer[at + 4 :], part.text)

    def test_letters_that_an_older_encoding_lacks_become_references(self) -> None:
        """A description may have any letter, whatever the part is written in."""
        part = XmlPart("t", '<?xml version="1.0" encoding="iso-8859-1"?><a>é</a>'.encode("latin-1"))
        changed = part.spliced([part.append_to_root("<b c='“Ø”'/>")])
        self.assertEqual(etree.fromstring(changed)[0].get("c"), "“Ø”")

    def test_something_can_be_put_into_an_empty_root(self) -> None:
        """`<Relationships/>` is opened."""
        part = XmlPart("t", b'<?xml version="1.0"?><p:R xmlns:p="u"/>')
        self.assertEqual(
            part.spliced([part.append_to_root("<x/>")]), b'<?xml version="1.0"?><p:R xmlns:p="u"><x/></p:R>'
        )


class Refusing(unittest.TestCase):
    """What must not be parsed is not."""

    def test_document_types_in_any_encoding(self) -> None:
        """Searching the bytes would miss the second one."""
        evil = '<!DOCTYPE a [<!ENTITY x "y">]><a>&x;</a>'
        for data in (evil.encode(), ('<?xml version="1.0" encoding="utf-16"?>' + evil).encode("utf-16")):
            with self.assertRaises(DoctypeRefused):
                _ = XmlPart("t", data).root

    def test_broken_parts(self) -> None:
        """Not well-formed, nothing at all, a wrong encoding."""
        for data in (b"<a><b></a>", b"", b"\xff\xfe<", b'<?xml version="1.0" encoding="utf-8"?><a>\xff</a>'):
            with self.subTest(data), self.assertRaises(PartMalformed):
                _ = XmlPart("t", data).root, XmlPart("t", data).text

    def test_attributes_are_escaped_and_free_of_forbidden_characters(self) -> None:
        """A description may hold anything that was pasted."""
        written = "<a" + attributes(descr='\0Tide "board" & <berths>\x0b\n') + "/>"
        self.assertEqual(etree.fromstring(written).get("descr"), 'Tide "board" & <berths>\n')
