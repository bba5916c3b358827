"""The main job from end to end: choose a place, take a region, trim it, bring the document under its limit, download."""

import io
import json
import re
from pathlib import Path

import docx
from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.support.docx import members
from tests.support.opc_checker import complaints
from tijera.core.packages.formats.docx.document import open_docx
from tijera.demo.handbook import make_handbook


class Journey(BrowserCase):
    """With demo data, as a clerk of the harbour office would go."""

    def test_a_region_of_the_desk_lands_in_a_column_under_the_limit(self) -> None:
        """Seven steps; every one is checked by what the next one has, the last by the bytes that left."""
        page = self.page
        self.go()

        # The demo data: the handbook under 2 MB, a few clippings.
        expect(page.get_by_text("Crew handbook.docx").first).to_be_visible()
        expect(page.get_by_text("limit 2 MB")).to_be_visible()
        expect(page.locator(".slip")).to_have_count(3)

        # A place, in Place, by pointing.
        page.get_by_label("Go to a heading or words").fill("4.2 low water")
        page.locator(".block-found + .spot").click()
        expect(page.locator(".goes-to")).to_contain_text("78.5 mm")

        # The desk, live: a window is raised, then frozen.
        page.keyboard.press("t")
        page.locator(".live-window", has=page.locator('img[src*="tide-board"]')).click(position={"x": 20, "y": 5})
        expect(page.get_by_role("button", name="Tide board, outer quay, on top")).to_be_visible()
        page.keyboard.press("f")
        frozen = page.locator(".frozen[data-ready=true]")
        expect(frozen).to_be_visible()

        # A region, corner to corner, not placed at once; then what a hasty hand does: pulled, nudged, typed.
        page.get_by_role("button", name="waits").click()
        self.drag(frozen, (0.05, 0.09), (0.40, 0.42))
        expect(page.get_by_test_id("becomes")).to_have_text(re.compile(r"78\.5 × [\d.]+ mm, \d+ ppi"))
        expect(page.get_by_role("button", name="Keep on the rack")).to_be_enabled()
        page.get_by_label("Width in pixels").fill("560")
        page.get_by_label("Height in pixels").fill("336")
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("becomes")).to_have_text("78.5 × 47.1 mm, 181 ppi")
        frozen.focus()
        left = page.get_by_label("Left edge in pixels")
        before = int(left.input_value())
        page.keyboard.press("Shift+ArrowRight")
        expect(left).to_have_value(str(before + 10))
        expect(page.locator(".segment-about")).to_be_attached()
        page.keyboard.press("Enter")

        # It stands in its column, at column width.
        placed = page.locator(".placed")
        expect(placed).to_have_count(1)
        expect(placed.get_by_label("Width: a number")).to_have_value("78.5")
        expect(placed).to_contain_text("fills the column")
        words = placed.get_by_label("Alternative text")
        words.fill("Tide curve of 12 March")
        words.press("Enter")
        expect(placed.get_by_role("button", name="Placed picture: Tide curve of 12 March")).to_be_visible()

        # Trim: crop by hand and by number, undo and redo, also after a reload.
        page.keyboard.press("Escape")
        page.locator(".placed-face").focus()
        page.keyboard.press("r")
        expect(page.locator(".measures")).to_contain_text("78.5 × 47.1 mm")
        self.drag(page.locator(".area-grip-s"), (0.5, 0.5), (0.5, -1.5))
        page.get_by_label("Height of the crop in pixels").fill("300")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Crop it").click()
        expect(page.locator(".slip-facts").first).to_contain_text("560 × 300")
        self.reload()
        page.keyboard.press("Control+z")
        expect(page.locator(".slip-facts").first).to_contain_text("560 × 336")
        page.keyboard.press("Control+Shift+Z")
        expect(page.locator(".slip-facts").first).to_contain_text("560 × 300")

        # Too heavy: the chart goes in as well, and the document is made to fit.
        page.keyboard.press("p")
        expect(page.locator(".place .placed")).to_be_visible()
        page.locator(".slip-face", has_text="Harbour chart").click()
        page.locator(".spot-chosen").click()
        expect(page.locator(".placed")).to_have_count(2)
        expect(page.locator(".rail-figure.too-heavy")).to_be_visible()
        page.get_by_role("button", name="Make it fit").click()
        fitted = page.locator(".notice-fitted")
        expect(fitted).to_contain_text("of 2 MB")
        expect(fitted).to_contain_text("Harbour chart: JPEG at quality")
        expect(page.locator(".fits")).to_be_visible()
        promised = int(page.locator(".rail-figure").get_attribute("data-bytes") or 0)
        self.assertLessEqual(promised, 2_000_000)

        # Download copy, twice: as many bytes as the rail said, and the same ones.
        copies = []
        for _ in range(2):
            with page.expect_download() as download:
                page.get_by_role("button", name="Download copy").click()
            copies.append(Path(download.value.path()).read_bytes())
        self.assertEqual(download.value.suggested_filename, "Crew handbook with clippings.docx")
        self.assertEqual(copies[0], copies[1])
        self.assertEqual(len(copies[0]), promised)
        self._check_copy(copies[0])

    def _check_copy(self, copy: bytes) -> None:
        """An independent reader, the tests' own checker, and the original beside it."""
        self.assertEqual(complaints(copy), [])
        read = docx.Document(io.BytesIO(copy))
        texts = [each.text for each in read.paragraphs]
        after = read.paragraphs[texts.index("4.2 Low water at the outer quay") + 1]
        inline = after._p.xpath(".//wp:inline")[0]
        column = next(s for s in open_docx(make_handbook()).outline.spots.values() if s.after_text.startswith("4.2"))
        self.assertEqual(inline.extent.cx, column.width.emu)
        self.assertEqual(inline.docPr.get("descr"), "Tide curve of 12 March")
        self.assertAlmostEqual(inline.extent.cx / inline.extent.cy, 560 / 300, places=3)
        original, written = members(make_handbook()), members(copy)
        untouched = set(original) - {"word/document.xml", "word/_rels/document.xml.rels", "[Content_Types].xml"}
        self.assertEqual({name: original[name] for name in untouched}, {name: written[name] for name in untouched})


class OwnFiles(BrowserCase):
    """Without demo data: one's own document and one's own picture go the same way."""

    with_demo_data = False

    def test_own_document_and_own_picture(self) -> None:
        """The first minute; a document by choosing, a picture by paste; placed, and out again."""
        from tests.support.docx import Docx, paragraph, section
        from tests.support.pictures import encoded, text_like

        page = self.page
        self.go()
        expect(page.get_by_role("heading", name="Cut what the screen shows.")).to_be_visible()
        expect(page.get_by_text("Your file is never changed")).to_be_visible()
        paper = Docx(paragraph("Before a vessel is called in") + paragraph("the watch reads") + section()).build()
        self.open_file("Rules.docx", paper)
        expect(page.locator(".block-paragraph")).to_have_count(2)
        expect(page.get_by_text("no limit yet")).to_be_visible()

        # A picture on the clipboard, as another program puts it there, pasted with the real key.
        picture = encoded(text_like(300, 170))
        page.evaluate(
            """async (bytes) => {
                const blob = new Blob([new Uint8Array(bytes)], { type: "image/png" });
                await navigator.clipboard.write([new ClipboardItem({ "image/png": blob })]);
            }""",
            json.loads(json.dumps(list(picture))),
        )
        page.keyboard.press("Control+v")
        expect(page.locator(".slip-name")).to_have_text("Pasted picture")
        expect(page.locator(".measures")).to_contain_text("300 × 170 px")
        page.keyboard.press("p")

        # A place by keys: from the first to the next, chosen, and the clipping put there.
        spots = page.locator(".place [data-spot]")
        spots.first.focus()
        page.keyboard.press("ArrowDown")
        expect(page.locator(":focus")).to_have_attribute("aria-label", re.compile("160.0 mm"))
        page.keyboard.press("Enter")
        expect(page.locator(".spot-chosen")).to_have_count(1)
        page.keyboard.press("Enter")
        expect(page.locator(".placed")).to_contain_text("at natural size")
        with page.expect_download() as download:
            page.keyboard.press("Control+s")
        copy = Path(download.value.path()).read_bytes()
        read = docx.Document(io.BytesIO(copy))
        self.assertEqual(len(read.paragraphs[1]._p.xpath(".//w:drawing")), 1)
        self.assertEqual(read.inline_shapes[0].width, 300 * 9_525)
        self.assertEqual(complaints(copy), [])

    def test_an_odt_from_take_to_the_downloaded_bytes(self) -> None:
        """Opened by choosing; a region lands in a cell at its width; undone and done again; read back by odfpy."""
        from odf import draw, text
        from odf.opendocument import load

        from tests.support.odt import Odt, p

        page = self.page
        self.go()
        cells = "".join(f"<table:table-cell>{p(words)}</table:table-cell>" for words in ("Q4", "1.4 m"))
        table = f'<table:table><table:table-column table:number-columns-repeated="2"/><table:table-row>{cells}</table:table-row></table:table>'
        paper = Odt(f'<text:h text:outline-level="1">Berths</text:h>{p("Low water")}{table}').build()
        self.open_file("Rules.odt", paper)
        expect(page.get_by_role("heading", name="Berths")).to_be_visible()
        page.locator("[data-spot='b.3.r1.c2.1']").click()
        expect(page.locator(".goes-to")).to_contain_text("85.0 mm")
        page.keyboard.press("t")
        expect(page.locator(".live-window").first).to_be_visible()
        page.keyboard.press("f")
        frozen = page.locator(".frozen[data-ready=true]")
        expect(frozen).to_be_visible()
        self.drag(frozen, (0.05, 0.09), (0.40, 0.42))
        expect(page.locator(".slip")).to_have_count(1)
        page.keyboard.press("p")
        expect(page.locator(".placed img")).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.locator(".placed")).to_have_count(0)
        page.keyboard.press("Control+Shift+z")
        expect(page.locator(".placed img")).to_be_visible()
        with page.expect_download() as download:
            page.keyboard.press("Control+s")
        self.assertEqual(download.value.suggested_filename, "Rules with clippings.odt")
        copy = Path(download.value.path()).read_bytes()
        read = load(io.BytesIO(copy))
        (frame,) = read.text.getElementsByType(draw.Frame)
        self.assertEqual(frame.getAttribute("width"), "85mm")
        self.assertEqual(frame.parentNode.parentNode.tagName, "table:table-cell")
        self.assertEqual(
            [str(each) for each in read.text.getElementsByType(text.P) if str(each)][:3], ["Low water", "Q4", "1.4 m"]
        )
        self.assertIn(b"image/png", members(copy)["META-INF/manifest.xml"])
        self.assertEqual(members(copy)["styles.xml"], members(paper)["styles.xml"])
