"""Place: spots by keys and pointer, cells and columns, measures in place."""

import io
import re
from pathlib import Path

import docx
from playwright.sync_api import APIResponse, Route, expect

from tests.browser.case import BrowserCase
from tijera.demo.handbook import make_handbook

_W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"


class Spots(BrowserCase):
    """In the demo handbook."""

    def setUp(self) -> None:
        """The galley."""
        super().setUp()
        self.go("/place")
        expect(self.page.locator("[data-spot]").first).to_be_attached()

    def find(self, words: str) -> None:
        """Go to some words."""
        self.page.get_by_label("Go to a heading or words").fill(words)
        # A long text is found in again once all of it is there.
        expect(self.page.locator(".block-found")).to_contain_text(re.compile(re.escape(words), re.IGNORECASE))

    def copy(self) -> docx.document.Document:
        """What would be downloaded, read by an independent reader."""
        with self.page.expect_download() as download:
            self.page.get_by_role("button", name="Download copy").click()
        return docx.Document(io.BytesIO(Path(download.value.path()).read_bytes()))

    def test_lanes_have_the_true_width_of_their_columns(self) -> None:
        """Four pixels a millimetre: 165, 78.5 and, of unequal columns, the narrow one."""
        expect(self.page.locator(".tool-says")).to_contain_text(" of 6")
        widths = []
        for section in self.page.locator("[data-stretch]").all():
            section.evaluate("each => each.scrollIntoView()")
            lanes = section.locator(".lanes")
            widths.append(lanes.evaluate("lanes => parseFloat(getComputedStyle(lanes).columnWidth) / 4"))
        self.assertEqual([round(width, 1) for width in widths], [165.0, 165.0, 78.5, 52.9, 78.5, 165.0])

    def test_arrow_keys_go_from_place_to_place_and_each_is_read_out(self) -> None:
        """Forward through a cell and back."""
        self.find("Keep clear of the crane")
        cell = self.page.locator("td", has_text="Keep clear of the crane").locator("[data-spot]")
        cell.first.focus()
        expect(self.page.locator(":focus")).to_have_attribute("aria-label", re.compile("in a table cell, 58.9 mm"))
        self.page.keyboard.press("ArrowDown")
        expect(cell.nth(1)).to_be_focused()
        self.page.keyboard.press("ArrowUp")
        expect(cell.first).to_be_focused()

    def test_a_cell_takes_a_clipping_at_its_own_width(self) -> None:
        """Chosen with one click, placed with the next; found there by an independent reader."""
        self.find("Keep clear of the crane")
        spot = self.page.locator("td", has_text="Keep clear of the crane").locator("[data-spot]").last
        spot.click()
        expect(self.page.locator(".goes-to")).to_contain_text("58.9 mm")
        spot.click()
        expect(self.page.locator(".placed")).to_have_count(1)
        expect(self.page.locator(".placed")).to_be_in_viewport()
        row = self.copy().tables[0].rows[1]
        extent = row.cells[3]._tc.xpath(".//wp:extent")[0]
        self.assertEqual(int(extent.get("cx")), (3_554 - 216) * 635)

    def test_a_double_click_places_once(self) -> None:
        """And one more only chooses what stands there."""
        self.find("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        expect(spot).to_have_attribute("aria-pressed", "true")
        spot.dblclick()
        expect(self.page.locator(".placed-chosen")).to_have_count(1)
        self.page.locator(".spot[aria-pressed=true]").click()
        expect(self.page.get_by_text("It stands there already.")).to_be_visible()
        expect(self.page.locator(".placed")).to_have_count(1)
        before = docx.Document(io.BytesIO(make_handbook()))
        self.assertEqual(len(self.copy().inline_shapes), len(before.inline_shapes) + 1)

    def test_a_place_stays_chosen_when_an_older_answer_comes_in(self) -> None:
        """A look at the bench that set out before the choice does not take it back: the next click places."""
        held: dict[str, tuple[Route, APIResponse]] = {}

        def hold(route: Route) -> None:
            kind = route.request.url.split("?")[0].rsplit("/", 1)[-1]
            if kind in held or (kind == "spot" and "bench" not in held):
                route.continue_()
            else:
                held[kind] = route, route.fetch()

        self.find("Keep clear of the crane")
        cell = self.page.locator("td", has_text="Keep clear of the crane").locator("[data-spot]")
        expect(cell.last).to_be_visible()
        self.page.route(re.compile(r"/(bench|spot)(\?.*)?$"), hold)
        for each, kind in ((cell.first, "bench"), (cell.last, "spot")):
            each.click()
            while kind not in held:
                self.page.wait_for_timeout(10)
        expect(cell.last).to_have_attribute("aria-pressed", "true")
        (look, older), (choice, done) = held["bench"], held["spot"]
        with self.page.expect_event("requestfinished", lambda request: "/bench" in request.url):
            look.fulfill(response=older)
        self.page.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
        self.assertEqual([each.get_attribute("aria-pressed") for each in (cell.first, cell.last)], ["false", "true"])
        choice.fulfill(response=done)
        cell.last.click()
        expect(self.page.locator(".placed")).to_have_count(1)
        cells = self.copy().tables[0].rows[1].cells[3]
        self.assertEqual([bool(each._p.xpath(".//wp:extent")) for each in cells.paragraphs], [False, True])

    def test_where_columns_differ_both_widths_are_offered(self) -> None:
        """The narrow one is chosen; the wide one is one click away."""
        self.find("6.1 Hours")
        spot = self.page.locator(".block-found + .spot")
        spot.hover()
        expect(spot).to_contain_text("104.1 or 52.9 mm")
        spot.click()
        spot.click()
        width = self.page.get_by_label("Width: a number")
        expect(width).to_have_value("52.9")
        self.button("Width: fills the column").click()
        self.page.get_by_role("menuitem", name="it falls into the 104.1 mm column").click()
        expect(width).to_have_value("104.1")

    def test_width_is_typed_filled_and_refused(self) -> None:
        """In millimetres on the picture; wider than the place is refused in words."""
        self.find("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        spot.click()
        width = self.page.get_by_label("Width: a number")
        width.fill("60")
        width.press("Enter")
        expect(self.page.locator(".placed")).to_contain_text("at the width typed")
        width.fill("90")
        width.press("Enter")
        expect(self.page.get_by_role("alert")).to_contain_text("90.0 mm was asked for, the place has 78.5 mm")
        expect(width).to_have_value("60.0")
        self.button("Width: at the width typed").click()
        self.page.get_by_role("menuitem", name="fills the column").click()
        expect(width).to_have_value("78.5")
        self.assertEqual(self.copy().inline_shapes[1].width, 4_450 * 635)

    def test_a_width_is_typed_in_any_unit_and_pulled_at_the_line(self) -> None:
        """Centimetres, inches, pixels and a share of the column; by the line's end, with the pointer and with keys."""
        self.find("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        spot.click()
        width = self.page.get_by_label("Width: a number")
        for typed, shown in (
            ("4 cm", "40.0"),
            ("2 in", "50.8"),
            ("226 px", "59.8"),
            ("50 %", "39.2"),
            ("7,5 cm", "75.0"),
        ):
            width.fill(typed)
            width.press("Enter")
            expect(width).to_have_value(shown)
        end = self.page.get_by_role("slider", name="Width of the picture")
        end.press("ArrowLeft")
        expect(width).to_have_value("74.0")
        end.press("Shift+ArrowLeft")
        expect(width).to_have_value("64.0")
        box = end.bounding_box()
        assert box is not None
        mouse = self.page.mouse
        mouse.move(box["x"] + 12, box["y"] + 12)
        mouse.down()
        # Centred: 4 pixels to the left take 4 pixels off either side, 2 mm in all.
        mouse.move(box["x"] + 12 - 40, box["y"] + 12, steps=4)
        mouse.up()
        expect(width).to_have_value("44.0")
        self.assertEqual(round(self.copy().inline_shapes[1].width / 36_000, 1), 44.0)
        # By its height too: 10 mm more of it are 15.3 mm more of its width, at 837 × 548 px.
        box = self.page.get_by_role("slider", name="Height of the picture").bounding_box()
        assert box is not None
        mouse.move(box["x"] + 12, box["y"] + 12)
        mouse.down()
        mouse.move(box["x"] + 12, box["y"] + 52, steps=4)
        mouse.up()
        expect(width).to_have_value("59.3")

    def test_the_sentence_says_how_it_stands_and_each_word_is_a_choice(self) -> None:
        """Beside the text, with a caption that counts; one scale for two; all of it in the written file, and undone."""
        self.find("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        spot.click()
        caption = self.page.get_by_label("Caption", exact=True)
        caption.fill("Tide board at low water")
        caption.press("Enter")
        expect(self.page.locator(".placed-caption")).to_have_text("Figure 1: Tide board at low water")
        self.button("Standing: on lines of its own").click()
        self.page.get_by_role("menuitem", name="text left of it").click()
        expect(self.page.locator(".sentence")).to_contain_text("text left of it")
        # A picture as wide as its column leaves no text beside it.
        expect(self.page.get_by_label("Width: a number")).to_have_value("39.2")
        self.button("Margin: 3.0 mm clear").click()
        self.page.get_by_role("menuitem", name="5 mm clear").click()
        expect(self.button("Margin: 5.0 mm clear")).to_be_visible()
        frame = self.copy().element.xpath("//w:framePr")[0]
        self.assertEqual((frame.get(_W + "xAlign"), frame.get(_W + "hSpace")), ("right", "283"))
        fields = [node.get(_W + "instr") for node in self.copy().element.xpath("//w:fldSimple")]
        self.assertEqual(fields, [" SEQ Figure \\* ARABIC "])
        self.page.keyboard.press("Control+z")
        expect(self.button("Margin: 3.0 mm clear")).to_be_visible()

    def test_clippings_that_belong_together_get_one_scale(self) -> None:
        """The smallest that any of them needs; computed again when one changes."""
        self.find("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        self.page.locator(".slip-face", has_text="Harbour chart").click()
        spot.click()
        expect(self.page.locator(".placed")).to_have_count(1)
        self.page.locator(".slip-face", has_text="Engine log").click()
        self.page.locator(".spot-chosen").click()
        expect(self.page.locator(".placed")).to_have_count(2)
        expect(self.page.locator(".placed-chosen")).to_have_count(1)
        self.button("Scale: sized by itself").click()
        self.page.get_by_role("menuitem", name="same scale as Harbour chart").click()
        width = self.page.get_by_label("Width: a number")
        # 987 pixels stand on 78.5 mm; at that scale 837 pixels are narrower.
        expect(width).to_have_value("66.6")
        self.page.locator(".placed", has_not=self.page.locator(".sentence")).locator(".placed-face").click()
        width.fill("40")
        width.press("Enter")
        expect(width).to_have_value("40.0")
        shapes = self.copy().inline_shapes
        widths = sorted(round(shape.width / 36_000, 1) for shape in shapes if shape.width < 50 * 36_000)
        self.assertEqual(widths, [33.9, 40.0])

    def test_a_picture_is_taken_out_with_a_key_and_comes_back_with_undo(self) -> None:
        """The document without it is the original, byte for byte."""
        self.find("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        spot.click()
        expect(self.page.locator(".placed")).to_have_count(1)
        self.page.locator(".placed-face").focus()
        self.page.keyboard.press("Delete")
        expect(self.page.locator(".placed")).to_have_count(0)
        expect(self.page.locator(".notice-problem")).to_have_count(0)
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".placed")).to_have_count(1)

    def test_a_clipping_can_be_dragged_from_the_rack_into_its_place(self) -> None:
        """The way that the hand knows."""
        self.find("4.2 low")
        self.page.locator(".slip-face", has_text="Crew roster").drag_to(self.page.locator(".block-found + .spot"))
        expect(self.page.locator(".placed img")).to_be_visible()
        self.assertEqual(len(self.copy().inline_shapes), 4)

    def test_a_placed_picture_moves_by_hand_and_by_its_sentence(self) -> None:
        """It stays the same picture, once in the document; each way is one step of undo."""
        self.find("4.2 low")
        first = self.page.locator(".block-found + .spot")
        self.page.wait_for_timeout(700)  # until it is scrolled to
        here = first.get_attribute("data-spot") or ""
        there = f"b.{int(here.removeprefix('b.')) + 1}"
        self.page.locator(".slip-face", has_text="Crew roster").drag_to(first)
        face = self.page.locator(".placed-face")
        expect(face).to_have_count(1)
        # What is dragged next must not be moved under the pointer by what opens beneath the picture.
        expect(self.page.locator(".sentence")).to_be_visible()
        self.stands_still(face)
        before = "//*[@data-spot='%s']/preceding-sibling::*[1][contains(@class, 'placed')]"
        face.drag_to(self.page.locator(f"[data-spot='{there}']"))
        expect(self.page.locator(f"xpath={before % there}")).to_have_count(1)
        self.assertEqual(len(self.copy().inline_shapes), 4)
        # By keys: the place that is chosen is offered in the sentence.
        self.page.locator(f"[data-spot='{here}']").focus()
        self.page.keyboard.press("Enter")
        self.page.locator(".sentence .choice", has_text="move it").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(f"xpath={before % here}")).to_have_count(1)
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(f"xpath={before % there}")).to_have_count(1)
        expect(face).to_have_count(1)

    def test_a_picture_of_the_document_is_taken_to_the_rack(self) -> None:
        """By keys; it stays in the document, and one undo takes it off the rack."""
        take = self.page.get_by_role("button", name="Take image1.jpeg to the rack")
        take.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".slip-name").first).to_have_text("Quillhaven harbour from above")
        expect(self.page.locator(".slip")).to_have_count(4)
        self.assertEqual(len(self.copy().inline_shapes), 3)
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".slip")).to_have_count(3)

    def test_a_document_that_is_dropped_opens_and_a_bad_one_is_refused(self) -> None:
        """The one that was open stays as it was."""
        drop = """([name, text]) => {
            const data = new DataTransfer();
            data.items.add(new File([text], name));
            document.body.dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
        }"""
        self.page.evaluate(drop, ["broken.docx", "Dear crew"])
        expect(self.page.get_by_role("alert")).to_contain_text("no file that Tijera can place into")
        expect(self.page.get_by_role("alert")).to_contain_text("save it as .docx, .odt, .xlsx, .ods or .eml")
        expect(self.page.locator(".goes-to")).to_contain_text("Crew handbook.docx")
