"""The mat: crops that are found, parts, wholes, turning, tones, edges, scale, views, small text, fingers and pens."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.browser.marks import MarkCase, pixels_of
from tests.support.pictures import encoded
from tijera.core.imaging.picture import Picture
from tijera.usecases import taking


class Crops(MarkCase):
    """Crops beyond pulling and typing."""

    def test_to_a_pane_to_the_marks_and_without_the_border(self) -> None:
        """Each is a draft until Enter; Esc goes back."""
        self.button("To a pane").click()
        self.page.mouse.move(*self.client((430, 300)))
        expect(self.page.locator(".pane-frame")).to_be_visible()
        self.page.mouse.move(*self.client((432, 301)))
        self.press((430, 300))
        width = self.page.get_by_label("Width of the crop in pixels")
        expect(self.button("Crop it")).to_be_visible()
        self.assertLess(int(width.input_value()), 720)
        self.page.keyboard.press("Escape")
        expect(width).to_have_value("837")
        self.tool("ring")
        self.draw((100, 380), (200, 460))
        self.expect_marks(1)
        self.tool("crop")
        self.button("To the marks").click()
        expect(width).to_have_value(str(100 + 2 * 15 - 1))
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".slip-facts").first).to_contain_text("129 × 109")
        self.assertEqual(self.left().shape[:2], (109, 129))

    def test_a_locked_ratio_holds_while_a_grip_is_pulled(self) -> None:
        """Four to three, whichever side is pulled."""
        self.page.get_by_label("Ratio of the crop").select_option(label="4 : 3")
        expect(self.page.get_by_label("Width of the crop in pixels")).to_have_value("731")
        self.page.wait_for_function(
            """() => document.querySelector('.area-box').getBoundingClientRect().width
                < 0.9 * document.querySelector('.mat-picture').getBoundingClientRect().width"""
        )
        self.drag(self.page.locator(".area-grip-e"), (0.5, 0.5), (-6, 0.5))
        expect(self.page.get_by_label("Width of the crop in pixels")).not_to_have_value("731")
        self.page.keyboard.press("Enter")
        self.wait_until(lambda: self.record().crop_width < 700)
        record = self.record()
        self.assertAlmostEqual(record.crop_width / record.crop_height, 4 / 3, delta=0.01)


class Sheets(MarkCase):
    """What is done to the whole picture."""

    def set(self, label: str, value: str) -> None:
        """Type a number."""
        self.page.get_by_label(label, exact=True).fill(value)
        self.page.keyboard.press("Enter")

    def test_turn_mirror_and_straighten(self) -> None:
        """The file is turned; marks go along; as it was taken in one step."""
        self.tool("turn")
        self.button("90° right").click()
        expect(self.page.locator(".slip-facts").first).to_contain_text("548 × 837")
        self.assertTrue(np.array_equal(self.left(), np.rot90(self.before, -1)))
        self.button("Mirror").click()
        self.wait_until(lambda: np.array_equal(self.finished(), np.rot90(self.before, -1)[:, ::-1]))
        self.button("As it was taken").click()
        self.wait_until(lambda: np.array_equal(self.finished(), self.before))
        self.set("Straighten by in °", "3")
        self.wait_until(lambda: self.record().crop_width < 837)
        self.assertEqual(self.left().shape[2], 3)

    def test_tones(self) -> None:
        """Grey and pale, by the saved bytes."""
        self.tool("tones")
        self.page.get_by_label("Grey").click()
        expect(self.page.get_by_label("Grey")).to_be_checked()
        self.button("Pale, for behind text").click()
        expect(self.page.get_by_label("Paler in %")).to_have_value("70")
        after = self.left()
        self.assertTrue((after[:, :, 0] == after[:, :, 2]).all())
        self.assertGreaterEqual(int(after.min()), 178)

    def test_room_with_words_in_it_an_edge_and_a_shadow(self) -> None:
        """A margin below, text in it, a line round all of it: one file, as the mat showed it."""
        self.tool("room")
        self.set("bottom in px", "80")
        expect(self.page.locator(".room-ground")).to_be_visible()
        self.tool("text")
        self.press((40, 580))
        self.page.locator(".writing").fill("Ask the watch")
        self.page.keyboard.press("Enter")
        self.expect_marks(1)
        after = self.left()
        self.assertEqual(after.shape[:2], (628, 837))
        self.assertTrue((after[560, 500] == 255).all())
        self.assertLess(int(after[580:628, 40:300].min()), 80)
        self.tool("edge")
        self.set("Weight in pt", "1.5")
        self.set("Shadow in pt", "4")
        self.wait_until(lambda: self.finished().shape[1] > 843)
        self.assertEqual(self.finished().shape[2], 4)

    def test_scale_with_the_very_result_before_it_is_set(self) -> None:
        """Half as wide, 418.5 going up to 419; twice as wide is warned of, in numbers."""
        self.tool("scale")
        self.set("Scale in %", "200")
        expect(self.page.locator(".tool-warns")).to_contain_text("every pixel is spread over 2.00 × 2.00")
        self.set("Scale in %", "50")
        preview = self.page.locator(".sent-picture")
        expect(preview).to_have_js_property("naturalWidth", 419)
        self.button("Scale it").click()
        expect(self.button("As it was taken")).to_be_visible()
        self.assertEqual(self.left().shape[:2], (274, 419))

    def test_parts_and_a_whole_of_them(self) -> None:
        """Two parts in one go; joined they are one clipping, and a change of a part shows on it."""
        self.tool("part")
        self.draw((20, 50), (320, 200))
        self.draw((400, 50), (700, 250))
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".notice")).to_contain_text("2 parts hang on the rack")
        self.assertEqual(self.workshop.store.count_clippings(), 5)
        slips = self.page.locator(".slip-face")
        slips.nth(1).click()
        slips.nth(0).click(modifiers=["Control"])
        # The first that was chosen stands first.
        self.button("below").click()
        expect(self.page.locator(".notice")).to_contain_text("joined on a new one")
        expect(self.page.locator(".inset")).to_have_count(2)
        joined = self.left()
        self.assertGreater(joined.shape[0], 340)
        self.tool("select")
        self.press((100, 60))
        self.button("Trim it by itself").click()
        # The part is there once the whole with its insets is gone: a stroke before that would go to the whole.
        expect(self.page.locator(".inset")).to_have_count(0)
        expect(self.page.locator(".mat-picture img")).to_be_visible()
        self.tool("black-out")
        self.draw((60, 60), (120, 100))
        self.expect_marks(1)
        self.page.locator(".slip-face").first.click()
        self.wait_until(lambda: int((self.finished()[:, :, :3].sum(axis=2) == 0).sum()) > 1_500)

    def test_a_slip_is_laid_on_by_dropping_it_on_the_mat(self) -> None:
        """An object at the place where it was dropped; its ratio stays when it is stretched."""
        self.page.locator(".slip").nth(2).drag_to(self.page.locator(".mat-picture"), target_position={"x": 60, "y": 60})
        expect(self.page.locator(".inset")).to_have_count(1)
        (mark,) = self.marks()
        (ax, ay), (bx, by) = mark.points
        self.draw((bx, by), (bx - 100, by))
        self.wait_until(lambda: self.marks()[0].points[1][0] < bx - 60)
        (ax, ay), (cx, cy) = self.marks()[0].points
        self.assertAlmostEqual((cy - ay) / (cx - ax), 758 / 987, delta=0.01)
        self.assertTrue((self.left()[:, :, :3] != self.before).any())


class Views(MarkCase):
    """Ways to look at it."""

    def scale(self) -> float:
        """View pixels per clipping pixel."""
        return float(self.page.locator(".mat").get_attribute("data-scale") or 0)

    def test_the_wheel_zooms_about_the_pointer(self) -> None:
        """What was under the pointer is under it still."""
        at = self.client((600, 120))
        self.page.mouse.move(*at)
        before = self.scale()
        for _ in range(4):
            self.page.keyboard.down("Control")
            self.page.mouse.wheel(0, -120)
            self.page.keyboard.up("Control")
        self.wait_until(lambda: self.scale() > before * 2)
        self.page.wait_for_function("() => document.querySelector('.mat').scrollLeft > 0")
        now = self.client((600, 120))
        self.assertAlmostEqual(now[0], at[0], delta=3)
        self.assertAlmostEqual(now[1], at[1], delta=3)

    def test_as_sent_shows_the_very_bytes_and_original_the_screen(self) -> None:
        """By button, by V, and by holding C."""
        self.tool("black-out")
        self.draw((30, 60), (200, 120))
        self.expect_marks(1)
        self.page.keyboard.press("v")
        picture = self.page.locator(".sent-picture")
        expect(picture).to_be_visible()
        shown = pixels_of(self.context.request.get(f"{self.server.address}{picture.get_attribute('src')}").body())
        self.assertTrue(np.array_equal(shown, self.finished()))
        self.page.keyboard.press("v")
        expect(self.page.locator(".marks")).to_have_count(1)
        self.page.keyboard.down("c")
        expect(self.page.locator(".marks")).to_have_count(0)
        self.page.keyboard.up("c")
        expect(self.page.locator(".marks")).to_have_count(1)

    def test_a_tall_picture_has_a_map_and_goes_to_screen_pixels_at_the_pointer(self) -> None:
        """4,000 pixels tall: opened at fit; Shift + 0 at the pointer; the map goes elsewhere."""
        pixels = np.full((4_000, 700, 3), 235, np.uint8)
        pixels[::40] = 90
        pixels[3_000:3_040, 300:340] = (200, 30, 30)
        taking.bring_in(self.workshop, encoded(Picture(pixels)), "Notice.png")
        self.reload()
        expect(self.page.locator(".slip-facts").first).to_contain_text("700 × 4 000")
        self.wait_until(lambda: self.scale() < 0.2)
        self.assertEqual(self.page.locator(".strip-map").count(), 0)
        at = self.client((320, 3_020))
        self.page.mouse.move(*at)
        self.page.keyboard.press("Shift+0")
        self.wait_until(lambda: self.scale() == 1)
        now = self.client((320, 3_020))
        self.assertAlmostEqual(now[1], at[1], delta=6)
        strip = self.page.locator(".strip-map")
        expect(strip).to_be_visible()
        strip.click(position={"x": 20, "y": 4})
        self.page.wait_for_function("() => document.querySelector('.mat').scrollTop < 100")
        # However large it is seen, the rulers stay in sight, with the ticks of what is in view and no more.
        for _ in range(20):
            self.page.keyboard.press("+")
        self.wait_until(lambda: self.scale() == 32)
        self.page.evaluate("() => document.querySelector('.mat').scrollBy(3000, 9000)")
        mat = self.page.locator(".mat").bounding_box()
        for ruler in self.page.locator(".ruler").all():
            box = ruler.bounding_box()
            assert mat
            assert box
            self.assertEqual((box["x"], box["y"]), (mat["x"], mat["y"]))
            self.assertTrue(4 < ruler.locator("line").count() < 100)

    def test_small_text_is_a_door(self) -> None:
        """In a narrow place: it says how small, and a crop makes it as large as it said."""
        self.go("/place")
        self.page.get_by_role("button", name="78.5 mm").first.click()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed").first).to_be_visible()
        self.page.keyboard.press("r")
        door = self.page.locator(".text-door")
        expect(door).to_be_visible()
        door.click()
        offer = self.page.locator(".doors").get_by_role("button", name="Crop to")
        expect(offer).to_be_visible()
        words = offer.inner_text()
        offer.click()
        figure = words.rsplit(" ", 2)[-2]
        expect(self.page.locator(".measures")).to_contain_text(f"{figure} pt")


class Fingers(MarkCase):
    """Fingers and pens."""

    has_touch = True

    def test_a_pen_that_presses_harder_draws_wider(self) -> None:
        """Pressure gives width, where the device has it."""
        self.tool("pen")
        self.page.get_by_label("Weight in pt").fill("8")
        self.page.keyboard.press("Enter")
        places = [self.client((60 + 20 * step, 440)) for step in range(14)]
        self.page.evaluate(
            """(places) => {
                const surface = document.querySelector('.mark-surface');
                const send = (type, [x, y], pressure) => surface.dispatchEvent(new PointerEvent(type, {
                    bubbles: true, cancelable: true, pointerId: 7, pointerType: 'pen', isPrimary: true,
                    button: 0, buttons: 1, clientX: x, clientY: y, pressure }));
                surface.setPointerCapture = () => undefined;
                send('pointerdown', places[0], 0.1);
                places.forEach((place, index) => send('pointermove', place, 0.1 + 0.9 * index / places.length));
                send('pointerup', places.at(-1), 0.9);
            }""",
            places,
        )
        self.expect_marks(1)
        self.assertEqual(len(self.marks()[0].pressures), len(self.marks()[0].points))
        changed = (self.left()[:, :, :3] != self.before).any(axis=2)
        thin, thick = changed[:, 80:100].sum(axis=0).mean(), changed[:, 270:290].sum(axis=0).mean()
        self.assertGreater(thick, thin * 1.8)

    def test_a_finger_places_and_moves(self) -> None:
        """A tap for a pennant; its anchor is 40 CSS pixels large for fingers."""
        self.tool("pennant")
        self.page.touchscreen.tap(*self.client((200, 440)))
        self.expect_marks(1)
        self.assertEqual(len(self.marks()), 1)


class Narrow(MarkCase):
    """At 200 % zoom."""

    viewport = (640, 400)

    def test_a_mark_can_be_drawn_at_640_by_400(self) -> None:
        """Tools and mat are in reach."""
        self.page.get_by_role("button", name="Pennant", exact=True).click()
        box = self.page.locator(".mark-surface").bounding_box()
        assert box is not None
        self.page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        self.expect_marks(1)
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        self.assertEqual(Image.open(io.BytesIO(Path(download.value.path()).read_bytes())).size, (837, 548))


class Pinch(MarkCase):
    """Two fingers."""

    has_touch = True

    def test_two_fingers_zoom_and_draw_nothing(self) -> None:
        """Spread to twice the distance: twice as large, about the middle between them."""
        self.tool("pen")
        before = float(self.page.locator(".mat").get_attribute("data-scale") or 0)
        middle = self.client((420, 270))
        self.page.evaluate(
            """([x, y]) => {
                const surface = document.querySelector('.mark-surface');
                surface.setPointerCapture = () => undefined;
                const send = (type, id, dx) => surface.dispatchEvent(new PointerEvent(type, {
                    bubbles: true, cancelable: true, pointerId: id, pointerType: 'touch', isPrimary: id === 11,
                    button: 0, buttons: 1, clientX: x + dx, clientY: y }));
                send('pointerdown', 11, -50);
                send('pointerdown', 12, 50);
                send('pointermove', 12, 50.5);
                send('pointermove', 12, 150);
                send('pointercancel', 11, -50);
                send('pointercancel', 12, 150);
            }""",
            list(middle),
        )
        self.wait_until(lambda: float(self.page.locator(".mat").get_attribute("data-scale") or 0) > before * 1.8)
        self.expect_marks(0)
        self.assertEqual(self.marks(), ())
