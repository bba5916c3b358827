"""Marks: a journey for each kind, from drawing to the bytes that left; then choosing, moving, styling, deleting."""

from __future__ import annotations

import numpy as np
from playwright.sync_api import expect

from tests.browser.marks import MarkCase


class Kinds(MarkCase):
    """Each kind is drawn with the mouse; the saved file has it where it was drawn, and nowhere else."""

    def test_arrow(self) -> None:
        """Bent, by the line above the mat; its middle can be pulled."""
        self.tool("arrow")
        self.draw((100, 380), (300, 480))
        self.expect_marks(1)
        self.button("bent").click()
        expect(self.page.locator(".anchor")).to_have_count(3)
        self.assert_changed_only_in(self.left(), (60, 360, 320, 500))
        self.assertEqual(self.marks()[0].options["line"], "bent")

    def test_line_with_its_angle(self) -> None:
        """Drawn nearly level it is level; typed degrees turn it about its first point."""
        self.tool("line")
        self.draw((100, 400), (300, 404))
        self.expect_marks(1)
        (start, end) = self.marks()[0].points
        self.assertEqual(start[1], end[1])
        self.page.get_by_label("Angle shown").click()
        self.page.get_by_label("Angle in °").fill("30")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".marks text").last).to_have_text("30°")
        (ax, ay), (bx, by) = self.marks()[0].points
        self.assertAlmostEqual((ay - by) / (bx - ax), np.tan(np.radians(30)), places=3)
        self.assert_changed_only_in(self.left(), (90, 280, 300, 412))

    def test_text(self) -> None:
        """Written where it stands; Shift and Enter begins a line."""
        self.tool("text")
        self.press((80, 420))
        field = self.page.locator(".writing")
        expect(field).to_be_focused()
        self.page.keyboard.type("Correct the hours")
        self.page.keyboard.press("Shift+Enter")
        self.page.keyboard.type("before noon")
        self.page.keyboard.press("Enter")
        self.expect_marks(1)
        self.assertEqual(self.marks()[0].options["text"], "Correct the hours\nbefore noon")
        self.assert_changed_only_in(self.left(), (78, 418, 330, 500))

    def test_callout(self) -> None:
        """From what it is about to where its words stand."""
        self.tool("callout")
        self.draw((120, 330), (200, 450))
        self.page.locator(".writing").fill("The engine")
        self.page.keyboard.press("Enter")
        self.expect_marks(1)
        self.assertEqual(len(self.marks()[0].points), 2)
        self.assert_changed_only_in(self.left(), (110, 320, 300, 485))

    def test_pennants_in_order_with_words(self) -> None:
        """Press by press; one deleted renumbers the rest; the words become the legend."""
        self.tool("pennant")
        for number, place in enumerate([(60, 460), (160, 460), (260, 460)], 1):
            self.press(place)
            self.expect_marks(number)
        self.page.get_by_label("Says").fill("The vessel that waits")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".legend")).to_contain_text("3 The vessel that waits")
        self.tool("select")
        self.press((70, 460))
        self.page.keyboard.press("Delete")
        self.expect_marks(2)
        expect(self.page.locator(".legend")).to_contain_text("2 The vessel that waits")
        after = self.left()
        self.assert_changed_only_in(after, (150, 430, 330, 490))
        self.assertTrue((after[440:480, 155:330] == (140, 192, 181)).all(axis=2).any(), "light sea glass")

    def test_ring(self) -> None:
        """An ellipse without fill: what it rings stays as it was."""
        self.tool("ring")
        self.button("ellipse").click()
        self.draw((90, 380), (290, 500))
        self.expect_marks(1)
        after = self.left()
        self.assert_changed_only_in(after, (85, 375, 295, 505))
        self.assertTrue(np.array_equal(after[420:460, 150:230, :3], self.before[420:460, 150:230]))

    def test_pen(self) -> None:
        """A free stroke."""
        self.tool("pen")
        self.draw((60, 440), (120, 410), (180, 470), (240, 430))
        self.expect_marks(1)
        self.assert_changed_only_in(self.left(), (50, 400, 250, 480))

    def test_tint(self) -> None:
        """The words under it stay dark, the ground takes the colour."""
        self.tool("tint")
        self.draw((30, 78), (400, 80))
        self.expect_marks(1)
        after = self.left()
        part, was = after[70:92, 60:380, :3].astype(int), self.before[70:92, 60:380].astype(int)
        self.assertTrue((part <= was + 1).all())
        self.assertGreater(int((part != was).any(axis=2).mean() * 100), 80)

    def test_black_out(self) -> None:
        """Black to the last pixel in the file, and said that the title stays here."""
        self.tool("black-out")
        self.draw((30, 60), (200, 120))
        self.expect_marks(1)
        expect(self.page.locator(".trim-says")).to_contain_text("the window’s title “Engine log” stays here")
        with self.page.expect_download() as download:
            self.button("Save", exact=True).click()
        self.assertEqual(download.value.suggested_filename, "Clipping.png")
        (ax, ay), (bx, by) = self.marks()[0].points
        after = self.finished()
        rows, columns = slice(int(ay) + 1, int(by)), slice(int(ax) + 1, int(bx))
        self.assertFalse(after[rows, columns].any())
        self.button("Let it leave").click()
        expect(self.page.locator(".trim-says")).to_contain_text("as you allowed")
        with self.page.expect_download() as allowed:
            self.button("Save", exact=True).click()
        self.assertEqual(allowed.value.suggested_filename, "Engine log.png")

    def test_explain_five_actions_in_at_most_twelve_actions(self) -> None:
        """Five pennants, a ring round the dialog, a name blacked out: ten actions, counted."""
        actions = 0
        self.tool("pennant")
        actions += 1
        for number in range(5):
            self.press((80 + 110 * number, 500))
            self.expect_marks(number + 1)
            actions += 1
        self.tool("ring")
        self.draw((85, 205), (775, 475))
        self.expect_marks(6)
        self.tool("black-out")
        self.draw((30, 10), (130, 34))
        self.expect_marks(7)
        actions += 4
        self.assertLessEqual(actions, 12)
        self.assertEqual([mark.kind for mark in self.marks()], ["pennant"] * 5 + ["ring", "black-out"])
        self.assertFalse(self.left()[12:32, 34:126, :3].any())


class Handling(MarkCase):
    """What can be done with marks that are there."""

    def setUp(self) -> None:
        """Two rings and a pennant."""
        super().setUp()
        self.tool("ring")
        self.draw((60, 380), (160, 460))
        self.expect_marks(1)
        self.draw((200, 380), (300, 460))
        self.expect_marks(2)
        self.tool("pennant")
        self.press((400, 440))
        self.expect_marks(3)

    def test_choose_move_and_stretch_by_pointer(self) -> None:
        """A ring by its line; then by an anchor."""
        self.tool("select")
        self.draw((60, 420), (90, 430))
        expect(self.page.locator(".mark-hold[aria-pressed='true']")).to_have_count(1)
        self.wait_for_points(0, (90, 390), (190, 470))
        self.draw((190, 470), (230, 500))
        self.wait_for_points(0, (90, 390), (230, 500))

    def wait_for_points(self, index: int, *points: tuple[float, float]) -> None:
        """Until a mark's anchors are there, to a pixel of the view."""
        scale = float(self.page.locator(".mat").get_attribute("data-scale") or 1)
        for _ in range(500):
            now = self.marks()[index].points
            if all(
                abs(a - b) <= 1.5 / scale
                for one, two in zip(now, points, strict=True)
                for a, b in zip(one, two, strict=True)
            ):
                return
            self.page.wait_for_timeout(30)
        self.fail(f"{self.marks()[index].points} instead of {points}")

    def test_sweep_over_several_and_delete_them(self) -> None:
        """One undo brings them back, also after a reload; redo takes them away again."""
        self.tool("select")
        self.draw((40, 360), (320, 480))
        expect(self.page.locator(".tool-name")).to_have_text("2 marks")
        self.page.keyboard.press("Delete")
        self.expect_marks(1)
        self.reload()
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".notice")).to_contain_text("Undone: Delete 2 marks on Engine log")
        self.tool("select")
        self.expect_marks(3)
        self.page.keyboard.press("Control+Shift+Z")
        self.expect_marks(1)

    def test_restyle_and_the_next_one_looks_alike(self) -> None:
        """The last style is remembered per tool, also after a reload."""
        self.tool("select")
        self.press((60, 420))
        self.button("Plum").click()
        expect(self.button("Plum")).to_have_attribute("aria-pressed", "true")
        self.reload()
        self.tool("ring")
        self.draw((500, 480), (600, 530))
        self.expect_marks(4)
        self.assertEqual(self.marks()[3].options["colour"], "plum")

    def test_copy_to_another_clipping(self) -> None:
        """All of them, to the same places there."""
        self.page.keyboard.press("Control+a")
        self.page.keyboard.press("Shift+Y")
        expect(self.page.locator(".notice")).to_contain_text("3 marks are copied")
        self.page.locator(".slip-face").nth(1).click()
        expect(self.page.locator(".mark-hold")).to_have_count(0)
        expect(self.page.locator(".mat-picture img")).to_be_visible()
        self.page.keyboard.press("Shift+V")
        self.expect_marks(3)
        other = self.workshop.pictures.sheet(self.workshop.store.clippings()[1])
        self.assertEqual([each.points for each in other.marks], [each.points for each in self.marks()])

    def test_clear_marks(self) -> None:
        """All at once, and back by one undo."""
        self.tool("select")
        self.button("Clear marks").click()
        self.expect_marks(0)
        self.assertTrue(np.array_equal(self.left()[:, :, :3], self.before))
        self.button("Undo", exact=True).first.click()
        self.expect_marks(3)

    def test_order_changes_a_pennants_number(self) -> None:
        """By keys."""
        self.tool("pennant")
        self.press((500, 440))
        self.expect_marks(4)
        self.page.keyboard.press("[")
        expect(self.page.locator(".tool-name")).to_have_text("Pennant 1")
        self.page.keyboard.press("]")
        expect(self.page.locator(".tool-name")).to_have_text("Pennant 2")

    def test_words_are_changed_where_they_stand(self) -> None:
        """By a double press."""
        self.tool("text")
        self.press((420, 480))
        self.page.locator(".writing").fill("Ebb")
        self.page.keyboard.press("Enter")
        self.expect_marks(4)
        self.tool("select")
        self.page.mouse.dblclick(*self.client((438, 493)))
        self.page.locator(".writing").fill("Flood")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".marks text").last).to_have_text("Flood")


class ByKeys(MarkCase):
    """Everything with keys alone."""

    def test_a_mark_of_each_gesture_is_placed_by_keys(self) -> None:
        """From point to point, corner to corner, at a point, along a way."""
        for number, (tool, points) in enumerate([("arrow", 2), ("ring", 2), ("pennant", 1), ("pen", 2)], 1):
            self.tool(tool)
            self.page.locator(".mark-surface").focus()
            self.page.keyboard.press("ArrowRight")
            for point in range(points):
                self.page.keyboard.press(" ")
                if point == 0 and points == 2:
                    for _ in range(5):
                        self.page.keyboard.press("Shift+ArrowRight")
                        self.page.keyboard.press("Shift+ArrowDown")
            self.expect_marks(number)
        arrow = self.marks()[0]
        self.assertEqual(arrow.points, ((419.0, 274.0), (469.0, 324.0)))
        self.assertGreater(len(self.marks()[3].points), 5)

    def test_marks_are_reached_moved_stretched_written_and_deleted_by_keys(self) -> None:
        """Tab from mark to mark; arrows move, with Alt they stretch; Enter writes; Delete deletes."""
        self.tool("text")
        self.page.locator(".mark-surface").focus()
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press(" ")
        self.page.locator(".writing").fill("Ebb")
        self.page.keyboard.press("Enter")
        self.expect_marks(1)
        self.tool("ring")
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press(" ")
        self.page.keyboard.press("Shift+ArrowRight")
        self.page.keyboard.press("Shift+ArrowDown")
        self.page.keyboard.press(" ")
        self.expect_marks(2)
        self.tool("select")
        self.page.locator(".mark-surface").focus()
        self.page.keyboard.press("Tab")
        expect(self.page.locator(".mark-hold").first).to_be_focused()
        expect(self.page.locator(".mark-hold").first).to_have_accessible_name(
            "Text: Ebb. Arrow keys move it, Delete deletes it, Enter writes."
        )
        x, y = self.marks()[0].points[0]
        self.page.keyboard.press("Shift+ArrowLeft")
        self.wait_until(lambda: self.marks()[0].points == ((x - 10, y),))
        self.page.keyboard.press("Enter")
        self.page.locator(".writing").fill("Flood")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".marks text").last).to_have_text("Flood")
        self.page.locator(".mark-hold").nth(1).focus()
        self.page.keyboard.press("Alt+Shift+ArrowRight")
        self.wait_until(lambda: self.marks()[1].points[1][0] - self.marks()[1].points[0][0] == 20)
        self.page.keyboard.press("Delete")
        self.expect_marks(1)


class Trouble(MarkCase):
    """Two windows, and a server that is away."""

    def test_the_later_of_two_windows_is_told(self) -> None:
        """Nothing is overwritten, and nothing that was drawn is lost: it is made on top of the other's."""
        second = self.open_page()
        second.goto(f"{self.server.address}/trim")
        expect(second.locator(".mat-picture img").first).to_be_visible()
        expect(second.locator(".tool-line:not([aria-busy]) .tool-name")).to_have_text("Crop")
        self.tool("pennant")
        self.press((60, 460))
        self.expect_marks(1)
        second.keyboard.press("Shift+N")
        second.locator(".mark-surface").click(position={"x": 200, "y": 200})
        expect(second.locator(".notice")).to_contain_text("Changed in another window")
        expect(second.locator(".mark-hold")).to_have_count(2)
        self.assertEqual(len(self.marks()), 2)

    def test_a_stroke_while_the_server_is_away_is_kept_and_made(self) -> None:
        """It is said, and the stroke stands there once, as soon as somebody answers."""
        self.tool("pen")
        self.context.route("**/edits*", lambda route: route.abort())
        self.draw((60, 440), (160, 420), (200, 470))
        expect(self.page.locator(".trim-warns")).to_contain_text("Your last change waits here")
        self.assertEqual(self.marks(), ())
        self.complaints.clear()
        self.context.unroute("**/edits*")
        self.expect_marks(1)
        expect(self.page.locator(".trim-warns")).to_have_count(0)
        self.complaints = [line for line in self.complaints if "ERR_FAILED" not in line]
        self.assertEqual(len(self.marks()), 1)
