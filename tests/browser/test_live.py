"""On the live screen: one gesture freezes and draws, a click holds, and nothing that was begun is lost."""

from __future__ import annotations

from playwright.sync_api import Route, expect

from tests.browser.marks import MarkCase
from tests.browser.take import TakeCase
from tijera.core.geometry import Rect


class Gestures(TakeCase):
    """Before anything is frozen."""

    def live(self, x: float, y: float) -> tuple[float, float]:
        """Where a pixel of the desk stands on the page."""
        box = self.page.locator(".live-desk").bounding_box()
        view = self.desk.look().size
        assert box
        return box["x"] + x * box["width"] / view.width, box["y"] + y * box["height"] / view.height

    def test_a_drag_that_is_over_before_the_screen_is_frozen_is_not_lost(self) -> None:
        """While the answer waits the cut line is there; the region is as soon as the frozen picture is."""
        waiting: list[Route] = []
        # Playwright looks at a handler's own attributes, which a built-in method has none of.
        self.page.route("**/sources/desk/frames", lambda route: waiting.append(route))  # noqa: PLW0108
        mouse = self.page.mouse
        mouse.move(*self.live(300, 330))
        mouse.down()
        mouse.move(*self.live(500, 420), steps=3)
        mouse.move(*self.live(900, 640), steps=3)
        expect(self.page.locator(".stage[data-freezing]")).to_be_visible()
        expect(self.page.locator(".live-drawn")).to_be_visible()
        mouse.up()
        waiting[0].continue_()
        expect(self.page.locator(".area-box")).to_be_visible()
        held = self.held()
        self.assertLessEqual(abs(held.x - 300) + abs(held.y - 330) + abs(held.right - 900) + abs(held.bottom - 640), 60)
        expect(self.page.locator(".live-drawn")).to_have_count(0)

    def test_a_click_holds_the_window_there(self) -> None:
        """All of it, with the part that another covers; Enter keeps it."""
        tide = self.box("tide-board")
        self.page.mouse.click(*self.live(tide.x + 400, tide.y + 200))
        self.expect_held(tide)
        expect(self.page.get_by_role("button", name="Window")).to_have_attribute("aria-pressed", "true")
        _, picture = self.keep()
        self.assertEqual(picture.size, tide.size)

    def test_the_scroll_bar_scrolls_and_a_menu_closes_by_a_click_elsewhere(self) -> None:
        """As they do on any screen; nothing is frozen by it."""
        bar = next(each.scroll_bar for each in self.desk.look().windows if each.id == "fare-notice")
        assert bar
        mouse = self.page.mouse
        mouse.move(*self.live(bar.x + bar.width / 2, bar.y + 30))
        mouse.down()
        mouse.move(*self.live(bar.x + bar.width / 2, bar.y + 130), steps=5)
        mouse.up()
        self.page.wait_for_function("() => document.querySelectorAll('.frozen').length === 0")
        for _ in range(100):
            scrolled = next(each.scrolled_px for each in self.desk.look().windows if each.id == "fare-notice")
            if scrolled > 150:
                break
            self.page.wait_for_timeout(50)
        self.assertGreater(scrolled, 150)
        self.button("Week, menu of Crew roster").click()
        expect(self.page.get_by_role("menuitem", name="Next week")).to_be_visible()
        self.page.mouse.click(*self.live(400, 400))
        expect(self.page.get_by_role("menu")).to_have_count(0)
        expect(self.page.locator(".frozen")).to_have_count(0)

    def test_a_reload_keeps_what_was_frozen_and_held(self) -> None:
        """The same frame, the same region; afterwards it can be kept as if nothing had been."""
        self.freeze()
        self.pull(300, 330, 900, 640)
        expect(self.button("Keep on the rack")).to_be_visible()
        held, frame = self.held(), self.frame().id
        self.reload()
        expect(self.frozen).to_be_visible()
        self.expect_held(held)
        record, _ = self.keep()
        self.assertEqual((record.frame, str(record.area)), (frame, str(held)))
        self.reload()
        expect(self.page.locator(".live-window")).to_have_count(9)


class Letting(TakeCase):
    """Esc lets go of one thing at a time, and a drag stays where it can mean something."""

    def test_esc_in_a_drag_ends_the_drag_alone(self) -> None:
        """A new region is dropped, a pulled corner goes back; the frozen screen stays."""
        self.freeze()
        mouse = self.page.mouse
        mouse.move(*self.at(300, 300))
        mouse.down()
        mouse.move(*self.at(700, 600), steps=4)
        self.page.keyboard.press("Escape")
        mouse.move(*self.at(800, 700), steps=2)
        mouse.up()
        expect(self.frozen).to_be_visible()
        expect(self.page.locator(".area-box")).to_be_hidden()
        self.pull(300, 300, 800, 700)
        expect(self.button("Keep on the rack")).to_be_visible()
        held = self.held()
        grip = self.page.locator(".area-grip-se").bounding_box()
        assert grip
        mouse.move(grip["x"] + grip["width"] / 2, grip["y"] + grip["height"] / 2)
        mouse.down()
        mouse.move(grip["x"] + 120, grip["y"] + 90, steps=4)
        self.page.keyboard.press("Escape")
        mouse.up()
        self.expect_held(held)
        expect(self.frozen).to_be_visible()

    def test_numbers_run_along_and_stay_whatever_else_comes(self) -> None:
        """While nothing moves and the page draws itself anew: the panes come late, a key is pressed, another is shown."""
        waiting: list[Route] = []
        self.page.route("**/panes", lambda route: waiting.append(route))  # noqa: PLW0108
        self.page.keyboard.press("f")
        expect(self.frozen).to_be_visible()
        mouse = self.page.mouse
        mouse.move(*self.at(300, 330))
        mouse.down()
        mouse.move(*self.at(900, 640), steps=4)
        width = self.page.get_by_label("Width in pixels")
        expect(width).not_to_have_value("")
        before = width.input_value()
        for each in waiting:
            each.continue_()
        self.page.wait_for_timeout(300)
        self.page.keyboard.press("m")
        self.page.wait_for_timeout(200)
        expect(width).to_have_value(before)
        mouse.up()
        expect(self.button("Keep on the rack")).to_be_visible()
        expect(width).to_have_value(before)

    def test_a_drag_stays_on_the_monitor_that_is_shown(self) -> None:
        """Pixels of the other one, which nobody sees, are never taken."""
        self.freeze()
        mouse = self.page.mouse
        mouse.move(*self.at(2_200, 600))
        mouse.down()
        mouse.move(*self.at(2_500, 800), steps=3)
        mouse.move(1_275, 640, steps=3)
        mouse.up()
        expect(self.button("Keep on the rack")).to_be_visible()
        held = self.held()
        self.assertEqual(held, held.meet(Rect(0, 0, 2_560, 1_440)))
        self.assertEqual(held.right, 2_560)

    def test_numbers_are_read_as_people_type_them(self) -> None:
        """Separators, commas, full-width digits; what is none says so and changes nothing."""
        self.freeze()
        self.pull(300, 300, 800, 700)
        expect(self.button("Keep on the rack")).to_be_visible()
        field = self.page.get_by_label("Width in pixels")
        for typed, width in (("1 200", "1200"), ("612,5", "613"), ("８００", "800"), ("1,100", "1100")):
            field.fill(typed)
            field.press("Enter")
            expect(field).to_have_value(width)
        field.fill("wide")
        field.press("Enter")
        expect(self.page.get_by_role("alert").filter(has_text="This is no number")).to_be_visible()
        field.press("Escape")
        expect(field).to_have_value("1100")

    def test_the_numbers_run_along_while_a_region_is_drawn(self) -> None:
        """Before the pointer is let go."""
        self.freeze()
        mouse = self.page.mouse
        mouse.move(*self.at(300, 300))
        mouse.down()
        mouse.move(*self.at(700, 600), steps=4)
        expect(self.page.get_by_label("Width in pixels")).not_to_have_value("")
        mouse.up()


class Hands(MarkCase):
    """Quick hands on the mat."""

    def test_thirty_pennants_at_five_a_second_all_stay(self) -> None:
        """Each is seen at once, and each is kept, in order; also close to the one before."""
        self.tool("pennant")
        for number in range(30):
            self.press((60 + 24 * number, 120 + 90 * (number % 4)))
            if number == 0:
                expect(self.page.locator(".pending-flag, .mark-hold").first).to_be_attached()
            self.page.wait_for_timeout(200)
        self.expect_marks(30)
        self.assertEqual([mark.kind for mark in self.marks()], ["pennant"] * 30)

    def test_chosen_marks_are_copied_and_put_with_the_usual_keys(self) -> None:
        """Ctrl + C and Ctrl + V mean the mark; with none chosen the picture is copied, and pasting is the picture's again."""
        self.tool("ring")
        self.draw((120, 120), (300, 220))
        self.expect_marks(1)
        self.page.keyboard.press("Control+c")
        expect(self.page.locator(".notice")).to_contain_text("1 mark is copied")
        self.page.keyboard.press("Control+v")
        self.expect_marks(2)
        self.assertEqual([mark.kind for mark in self.marks()], ["ring", "ring"])
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Control+c")
        expect(self.page.locator(".notice")).to_contain_text("is on the clipboard as PNG")

    def test_a_pulled_crop_counts_when_another_tool_is_taken(self) -> None:
        """And when the room is left by its letter."""
        before = self.record().crop
        self.drag(self.page.locator(".area-grip-s"), (0.5, 0.5), (0.5, -2.0))
        expect(self.button("Crop it")).to_be_visible()
        self.tool("ring")
        self.wait_until(lambda: self.record().crop.height < before.height)
        self.tool("crop")
        self.drag(self.page.locator(".area-grip-e"), (0.5, 0.5), (-2.0, 0.5))
        self.page.keyboard.press("t")
        expect(self.page.locator(".take")).to_be_visible()
        self.assertLess(self.record().crop.width, before.width)

    def test_a_crop_that_is_pulled_while_the_one_before_is_on_its_way_stays(self) -> None:
        """The answer to the first one, coming late, takes neither the second one nor one that is being pulled."""
        before = self.record().crop
        self.page.evaluate(
            """() => {
              const fetched = window.fetch;
              const gate = new Promise((open) => { window.openGate = open; });
              window.fetch = async (request, ...more) => {
                const answer = await fetched(request, ...more);
                if (request.method === "POST") await gate;
                return answer;
              };
            }"""
        )
        self.drag(self.page.locator(".area-grip-s"), (0.5, 0.5), (0.5, -2.0))
        self.tool("ring")
        self.wait_until(lambda: self.record().crop.height < before.height)
        self.tool("crop")
        self.drag(self.page.locator(".area-grip-e"), (0.5, 0.5), (-2.0, 0.5))
        width = self.page.get_by_label("Width of the crop in pixels")
        expect(width).not_to_have_value(str(before.width))
        self.page.evaluate("() => window.openGate()")
        self.page.keyboard.press("t")
        expect(self.page.locator(".take")).to_be_visible()
        self.assertLess(self.record().crop.width, before.width)
        self.assertLess(self.record().crop.height, before.height)


class Larger(TakeCase):
    """The frozen screen is seen larger while one draws on it."""

    def part(self) -> Rect:
        """Of the desk's left monitor, what is seen now; to whole pixels."""
        screen, frozen = self.page.locator(".screen").bounding_box(), self.page.locator(".frozen").bounding_box()
        assert screen
        assert frozen
        scale = frozen["width"] / self.frame().width
        x, y = (screen["x"] - frozen["x"]) / scale, (screen["y"] - frozen["y"]) / scale
        return Rect(round(x), round(y), round(screen["width"] / scale), round(screen["height"] / scale))

    def zoom(self, x: float, y: float, notches: int) -> None:
        """Turn the wheel over a pixel of the frame."""
        self.page.mouse.move(*self.at(x, y))
        for _ in range(notches):
            before = self.part()
            self.page.mouse.wheel(0, -100)
            for _ in range(200):
                if self.part() != before:
                    break
                self.page.wait_for_timeout(20)

    def test_the_wheel_keeps_the_pixel_under_the_pointer_and_every_pixel_can_be_hit(self) -> None:
        """At fit a view pixel is 2.7 of the screen; after twelve notches a single one can be drawn round."""
        self.freeze()
        screen = self.page.locator(".screen").bounding_box()
        self.zoom(900, 500, 12)
        where = self.at(900, 500)
        self.page.mouse.move(*where)
        part = self.part()
        self.assertAlmostEqual(2_560 / part.width, 1.25**12, delta=0.5)
        self.assertTrue(part.x <= 900 < part.right and part.y <= 500 < part.bottom)
        mouse = self.page.mouse
        self.page.keyboard.down("Alt")
        self.pull(897.5, 498.5, 902.5, 501.5)
        self.page.keyboard.up("Alt")
        self.expect_held(Rect(898, 499, 5, 3))
        mouse.move(0, 0)
        self.assertEqual(self.page.locator(".screen").bounding_box(), screen)
        self.page.get_by_title("The whole screen").click()
        self.assertEqual(self.part(), Rect(0, 0, 2_560, 1_440))
        _, picture = self.keep()
        self.assertEqual(str(picture.size), str(Rect(0, 0, 5, 3).size))

    def test_a_drag_goes_on_beyond_the_edge_and_by_the_wheel(self) -> None:
        """Held beyond the edge the screen comes along until its end; the wheel scrolls while something is drawn."""
        self.freeze()
        self.zoom(600, 400, 6)
        screen = self.page.locator(".screen").bounding_box()
        assert screen
        before = self.part()
        mouse = self.page.mouse
        mouse.move(*self.at(600, 400))
        mouse.down()
        mouse.move(screen["x"] + screen["width"] + 60, screen["y"] + screen["height"] - 40, steps=4)
        for _ in range(400):
            if self.part().right == 2_560:
                break
            self.page.wait_for_timeout(50)
        self.assertEqual(self.part().right, 2_560)
        mouse.move(screen["x"] + screen["width"] - 20, screen["y"] + screen["height"] - 50)
        mouse.wheel(0, 20_000)
        for _ in range(400):
            if self.part().bottom == 1_440:
                break
            self.page.wait_for_timeout(50)
        seen = self.part()
        self.assertEqual((seen.width, seen.bottom), (before.width, 1_440))
        mouse.up()
        expect(self.button("Keep on the rack")).to_be_visible()
        held = self.held()
        self.assertGreater(held.right, 2_500)
        self.assertLess(abs(held.x - 600) + abs(held.y - 400), 12)
        self.assertGreater(held.bottom, before.bottom)

    def test_keys_zoom_and_the_aim_is_followed(self) -> None:
        """Plus, minus, nought; arrows move the aim, and what is seen goes along."""
        self.freeze()
        for _ in range(8):
            self.page.keyboard.press("+")
        expect(self.page.locator(".look-steps button:enabled")).to_have_count(3)
        self.frozen.focus()
        for _ in range(9):
            self.page.keyboard.press("Control+ArrowRight")
        part = self.part()
        self.assertTrue(part.x < 2_180 < part.right, part)
        self.page.keyboard.press("0")
        expect(self.page.locator(".look-steps button:enabled")).to_have_count(1)
        self.assertEqual(self.part(), Rect(0, 0, 2_560, 1_440))
