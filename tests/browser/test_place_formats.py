"""Sheets and messages from Take to the bytes that left; newer versions; files that are signed."""

from __future__ import annotations

import email
import email.policy
import io
from email.message import EmailMessage
from pathlib import Path

import openpyxl
from odf.draw import Frame
from odf.opendocument import load
from odf.table import Table, TableRow
from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.support.docx import Docx, members, paragraph
from tests.support.ods import Ods, row
from tijera.demo.notice import make_notice
from tijera.demo.tide_table import make_tide_table


class _Formats(BrowserCase):
    with_demo_data = False

    def take_and_place(self) -> None:
        """One drag on the live desk puts a clipping into the chosen place."""
        page = self.page
        page.keyboard.press("t")
        expect(page.locator(".live-window").first).to_be_visible()
        self.drag(page.locator(".screen"), (0.05, 0.12), (0.35, 0.42))
        expect(page.locator(".slip")).to_have_count(1)
        page.keyboard.press("p")
        expect(page.locator(".placed img")).to_be_visible()

    def download(self) -> bytes:
        """The copy's bytes."""
        with self.page.expect_download() as download:
            # The key means the same for every kind of file; the button sends a message that was begun here.
            self.page.keyboard.press("Control+s")
        return Path(download.value.path()).read_bytes()


class Sheets(_Formats):
    """Grids at true measures."""

    def pull(self, start: tuple[int, int], end: tuple[int, int]) -> None:
        """Over cells, in pixels from the grid's corner."""
        box = self.page.locator(".grid-ground").bounding_box()
        assert box is not None
        mouse = self.page.mouse
        mouse.move(box["x"] + start[0], box["y"] + start[1])
        mouse.down()
        mouse.move(box["x"] + end[0], box["y"] + end[1], steps=5)
        mouse.up()

    def test_an_xlsx_from_take_to_the_downloaded_bytes(self) -> None:
        """Cells are pulled over, the clipping spans their columns; its stand is chosen; read back by openpyxl."""
        page = self.page
        self.go()
        self.open_file("Tide table.xlsx", make_tide_table())
        expect(page.get_by_role("gridcell", name="mail and parcels").first).to_be_visible()
        expect(page.get_by_role("columnheader", name="G", exact=True)).to_be_visible()
        # Heads of columns are as wide as the columns: 22.71 characters are 159 pixels (ECMA-376 Part 1 §18.3.1.13).
        head = page.get_by_role("columnheader", name="G", exact=True).bounding_box()
        assert head is not None
        self.assertEqual(round(head["width"]), 159)
        self.pull((46 + 89 + 117 + 20, 24 + 32 + 20 + 65), (46 + 89 + 117 + 82 + 40, 24 + 32 + 20 + 66))
        expect(page.locator(".goes-to")).to_contain_text("over C6:D6")
        self.take_and_place()
        expect(page.locator(".grid-note")).to_contain_text("fills columns C–D")
        expect(page.get_by_label("Width: a number")).to_have_value("43.4")
        # The line's end stands at the picture's edge; pulled 40 pixels to the left, it takes 40 pixels away.
        end = page.get_by_role("slider", name="Width of the picture").bounding_box()
        face = page.locator(".placed-face img").bounding_box()
        assert end is not None
        assert face is not None
        middle = end["x"] + end["width"] / 2
        self.assertAlmostEqual(middle, face["x"] + face["width"], delta=6)
        page.mouse.move(middle, end["y"] + 12)
        page.mouse.down()
        page.mouse.move(middle - 40, end["y"] + 12, steps=4)
        page.mouse.up()
        expect(page.get_by_label("Width: a number")).to_have_value("32.8")
        page.keyboard.press("Control+z")
        expect(page.get_by_label("Width: a number")).to_have_value("43.4")
        self.button("Standing: hangs from").click()
        page.get_by_role("menuitem", name="stretches with the cells").click()
        expect(page.locator(".grid-note")).to_contain_text("stretches with the cells from C6")
        copy = self.download()
        (image,) = openpyxl.load_workbook(io.BytesIO(copy))["Tides"]._images
        self.assertEqual((image.anchor._from.col, image.anchor._from.row, image.anchor.to.col), (2, 5, 4))
        original, written = members(make_tide_table()), members(copy)
        changed = {name for name in original if original[name] != written[name]}
        self.assertEqual(changed, {"[Content_Types].xml", "xl/worksheets/sheet1.xml"})
        page.keyboard.press("Escape")
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(page.locator(".placed")).to_have_count(0)
        self.assertEqual(self.download(), make_tide_table())

    def test_cells_are_found_chosen_by_keys_and_a_row_grows(self) -> None:
        """A find goes to the cell; Shift and arrows choose several; the row is as high as the picture that hangs in it."""
        page = self.page
        self.go()
        self.open_file("Tide table.xlsx", make_tide_table())
        find = page.get_by_label("Go to words")
        find.fill("Low water")
        find.press("Enter")
        expect(page.locator(".grid-cells [data-cells='E2']")).to_be_visible()
        grid = page.get_by_role("grid")
        grid.focus()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Shift+ArrowRight")
        expect(page.locator(".grid-cells [data-cells='E3:F3']")).to_be_visible()
        expect(page.locator(".goes-to")).to_contain_text("over E3:F3")
        self.take_and_place()
        self.button("Height of the row: keeps its height").click()
        page.get_by_role("menuitem", name="grows to fit the picture").click()
        expect(self.button("Height of the row: grows to fit")).to_be_visible()
        sheet = openpyxl.load_workbook(io.BytesIO(self.download()))["Tides"]
        (image,) = sheet._images
        self.assertAlmostEqual(sheet.row_dimensions[3].height, image.anchor.ext.cy / 12_700, places=2)
        face = page.locator(".placed-face").bounding_box()
        side = page.get_by_role("rowheader", name="3", exact=True).bounding_box()
        assert face is not None
        assert side is not None
        self.assertAlmostEqual(side["height"], image.anchor.ext.cy / 9_525, delta=1)

    def test_an_ods_from_take_to_the_downloaded_bytes(self) -> None:
        """A cell of a row that is repeated; the clipping hangs from it at natural size; read back by odfpy."""
        page = self.page
        rest = '<table:table-row table:number-rows-repeated="40"><table:table-cell table:number-columns-repeated="9"/></table:table-row>'
        paper = Ods({"Berths": row("Berth", "Boat") + row("East steps", "Heron") + rest}).build()
        self.go()
        self.open_file("Berths.ods", paper)
        expect(page.get_by_role("gridcell", name="East steps")).to_be_visible()
        self.pull((46 + 85 + 20, 24 + 17 * 9 + 8), (46 + 85 + 20, 24 + 17 * 9 + 8))
        expect(page.locator(".goes-to")).to_contain_text("at B10, natural size")
        self.take_and_place()
        expect(page.locator(".grid-note")).to_contain_text("at natural size")
        read = load(io.BytesIO(self.download()))
        (table,) = read.spreadsheet.getElementsByType(Table)
        rows = table.getElementsByType(TableRow)
        (frame,) = table.getElementsByType(Frame)
        self.assertIs(frame.parentNode.parentNode, rows[3])
        repeats = [int(each.getAttribute("numberrowsrepeated") or 1) for each in rows]
        self.assertEqual(repeats, [1, 1, 7, 1, 32])

    def test_a_new_spreadsheet_takes_a_clipping(self) -> None:
        """Begun from nothing."""
        page = self.page
        self.go("/place")
        self.button("spreadsheet (.xlsx)").click()
        self.pull((80, 60), (80, 60))
        expect(page.locator(".goes-to")).to_contain_text("at A2")
        self.take_and_place()
        (image,) = openpyxl.load_workbook(io.BytesIO(self.download()))["Sheet 1"]._images
        self.assertEqual((image.anchor._from.col, image.anchor._from.row), (0, 1))


class Messages(_Formats):
    """Of others, and new ones."""

    def read(self) -> EmailMessage:
        """The copy, by the standard library's parser."""
        message = email.message_from_bytes(self.download(), policy=email.policy.default)
        assert isinstance(message, EmailMessage)
        return message

    def test_a_message_of_others_from_take_to_the_downloaded_bytes(self) -> None:
        """In its body and attached as well; both results are looked at; all other parts are what they were."""
        page = self.page
        self.go()
        self.open_file("Notice.eml", make_notice())
        expect(page.get_by_text("Low water on Friday: what do we put on the board?")).to_be_visible()
        expect(page.locator(".message-attached")).to_contain_text("moorings.csv")
        page.locator("[data-spot='h.4']").click()
        expect(page.locator(".goes-to")).to_contain_text("600 px")
        self.take_and_place()
        self.button("Standing: in the body").click()
        page.get_by_role("menuitem", name="in the body and attached").click()
        expect(self.button("Standing: in the body and attached")).to_be_visible()
        page.get_by_role("link", name="see how it arrives").click()
        with_pictures = page.frame_locator("iframe")
        expect(with_pictures.get_by_text("the part with the two rows in the middle?")).to_be_visible()
        picture = with_pictures.locator("img")
        expect(picture).to_be_visible()
        self.assertGreater(int(picture.evaluate("image => image.naturalWidth")), 100)
        self.assertEqual(page.locator("iframe").get_attribute("sandbox"), "")
        without = page.locator(".arrives section").nth(1)
        expect(without).to_contain_text("Could you send me the tide window of the timetable program?")
        expect(without.locator("li")).to_have_count(3)
        message = self.read()
        before = email.message_from_bytes(make_notice(), policy=email.policy.default)
        images = [part for part in message.walk() if part.get_content_maintype() == "image"]
        self.assertEqual([part.get_content_disposition() for part in images], ["inline", "attachment"])
        self.assertEqual(images[0].get_content(), images[1].get_content())
        html = next(part for part in message.walk() if part.get_content_type() == "text/html").get_content()
        self.assertIn(f'src="cid:{str(images[0]["content-id"]).strip("<>")}"', html)
        for kind in ("text/plain", "text/csv"):
            own, was = (next(p for p in m.walk() if p.get_content_type() == kind) for m in (message, before))
            self.assertEqual(own.get_payload(decode=True), was.get_payload(decode=True))
        self.assertEqual(message["message-id"], before["message-id"])

    def test_a_new_message_from_nothing_to_the_downloaded_bytes(self) -> None:
        """Written here; a picture stays behind its paragraph while more is written before it; the plain text names it."""
        page = self.page
        self.go("/place")
        self.button("message", exact=True).click()
        page.get_by_label("To", exact=True).fill(
            "J\u00f6rg Sand <pier@quillhaven.example>, Teal <teal@quillhaven.example>"
        )
        page.get_by_label("Subject").fill("Tide window")
        text = page.get_by_label("Text; an empty line begins a paragraph")
        text.fill("Dear all,\n\nhere is the window.")
        expect(page.locator(".message-body")).to_contain_text("here is the window.")
        page.locator("[data-spot='h.2']").click()
        expect(page.locator(".goes-to")).to_contain_text("is the window")
        self.take_and_place()
        text.fill("Dear all,\n\ngood morning.\n\nhere is the window.\n\nHarbour office")
        expect(page.locator(".message-body")).to_contain_text("Harbour office")
        expect(page.locator("[data-placement]")).to_be_visible()
        message = self.read()
        self.assertEqual(message["to"], "J\u00f6rg Sand <pier@quillhaven.example>, Teal <teal@quillhaven.example>")
        self.assertEqual(message["subject"], "Tide window")
        plain = message.get_body(("plain",))
        html = message.get_body(("html",)) or message.get_body(("related",))
        assert plain is not None
        assert html is not None
        words = plain.get_content()
        self.assertLess(words.index("here is the window."), words.index("[Picture: "))
        self.assertLess(words.index("[Picture: "), words.index("Harbour office"))
        shown = next(part for part in message.walk() if part.get_content_type() == "text/html").get_content()
        self.assertLess(shown.index("here is the window."), shown.index("<img"))
        self.assertLess(shown.index("<img"), shown.index("Harbour office"))


class Versions(_Formats):
    """The document goes on changing in its own program."""

    def test_a_newer_version_is_dropped_and_lost_places_are_named(self) -> None:
        """Places are found again by their text; undo brings the older version back."""
        page = self.page
        old = Docx(paragraph("Tides") + paragraph("Low water at the quay") + paragraph("Old rules")).build()
        new = Docx(paragraph("Tides") + paragraph("A new beginning") + paragraph("Low water at the quay")).build()
        self.go()
        self.open_file("Rules.docx", old)
        page.locator("[data-spot='b.2']").click()
        self.take_and_place()
        page.keyboard.press("Escape")
        page.locator("[data-spot='b.3']").click()
        page.locator("[data-spot='b.3']").click()
        expect(page.locator(".placed")).to_have_count(2)
        self.open_file("Rules.docx", new)
        notice = page.locator(".notice")
        expect(notice).to_contain_text("2 clippings stand in an earlier version of Rules.docx")
        self.button("Bring them over").click()
        expect(notice).to_contain_text("One place was found again in the newer version; one is not there any more")
        expect(notice).to_contain_text("after “Old rules”")
        expect(page.locator(".placed")).to_have_count(1)
        main = members(self.download())["word/document.xml"].decode()
        self.assertLess(main.index("Low water at the quay"), main.index("<wp:inline"))
        self.assertNotIn("Old rules", main)
        page.keyboard.press("Control+z")
        expect(page.locator(".placed")).to_have_count(2)
        self.assertIn("Old rules", members(self.download())["word/document.xml"].decode())

    def test_a_file_is_followed_by_its_path_and_written_back(self) -> None:
        """A change on the computer is noticed and taken over; nothing is written unless asked, and then whole."""
        page = self.page
        path = self.server.folder / "Rules.docx"
        path.write_bytes(Docx(paragraph("Tides") + paragraph("Low water")).build())
        self.go("/place")
        self.button("follow a file where it lies").click()
        page.get_by_label("Path of the file on this computer").fill(f'"{path}"')
        page.keyboard.press("Enter")
        page.locator("[data-spot='b.2']").click()
        self.take_and_place()
        newer = Docx(paragraph("Before all") + paragraph("Tides") + paragraph("Low water")).build()
        path.write_bytes(newer)
        expect(page.locator(".followed")).to_contain_text("changed on this computer")
        self.button("take over the newer version").click()
        expect(page.locator(".galley")).to_contain_text("Before all")
        self.assertEqual(path.read_bytes(), newer)
        self.button("write it back to the file").click()
        expect(page.locator(".notice")).to_contain_text("Rules.docx is written, in its own place")
        main = members(path.read_bytes())["word/document.xml"].decode()
        self.assertLess(main.index("Low water"), main.index("<wp:inline"))

    def test_from_one_file_to_a_new_one_and_back(self) -> None:
        """By the menu at the end of the room, with keys: the first is as it was left."""
        page = self.page
        self.go()
        self.open_file("Tide table.xlsx", make_tide_table())
        page.get_by_label("Go to words").fill("Low water")
        page.get_by_label("Go to words").press("Enter")
        expect(page.locator(".goes-to")).to_contain_text("at E2")
        self.button("Another file").press("Enter")
        page.get_by_role("menuitem", name="New message").press("Enter")
        expect(page.get_by_label("Subject")).to_be_visible()
        self.button("Another file").press("Enter")
        page.get_by_role("menuitem", name="Tide table.xlsx, as you left it").press("Enter")
        expect(page.locator(".goes-to")).to_contain_text("at E2")

    def test_a_signed_file_is_opened_by_consent_only(self) -> None:
        """Refused with the reason; one action accepts the loss."""
        signed = Docx(paragraph("Signed rules"), extra={"_xmlsignatures/sig1.xml": b"<Signature/>"}).build()
        self.go()
        self.open_file("Signed.docx", signed)
        expect(self.page.get_by_role("alert")).to_contain_text("The file is signed")
        self.button("Open it, its signature will be lost").click()
        expect(self.page.get_by_role("paragraph").filter(has_text="Signed rules")).to_be_visible()
        self.page.locator("[data-spot='b.1']").click()
        self.take_and_place()
        self.assertIn("_xmlsignatures/sig1.xml", members(self.download()))
