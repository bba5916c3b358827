"""Take: every kind of cut on the practice desk, by pointer and by keys, up to the pixels that were kept."""

import io
import itertools
import re
import threading
from collections.abc import Callable

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.browser.take import TakeCase
from tijera.core.geometry import Rect
from tijera.desk.desk import PracticeDesk
from tijera.usecases import taking


class Region(TakeCase):
    """Too early a release costs nothing."""

    def setUp(self) -> None:
        """Frozen, with a region drawn."""
        super().setUp()
        self.freeze()
        self.pull(260, 288, 770, 722)
        expect(self.button("Keep on the rack")).to_be_enabled()

    def test_it_can_be_moved_pulled_and_typed(self) -> None:
        """By pointer, by keys, by number; each says what it is."""
        start = self.held()
        self.assertLess(abs(start.x - 260) + abs(start.width - 510), 40)
        self.drag(self.page.locator(".area-box"), (0.5, 0.5), (0.6, 0.5))
        expect(self.page.get_by_label("Left edge in pixels")).not_to_have_value(str(start.x))
        moved = self.held()
        self.assertEqual((moved.y, moved.width, moved.height), (start.y, start.width, start.height))
        self.assertGreater(moved.x, start.x + 20)
        self.drag(self.page.locator(".area-grip-ne"), (0.5, 0.5), (1.5, 0.1))
        expect(self.page.get_by_label("Width in pixels")).not_to_have_value(str(start.width))
        pulled = self.held()
        self.assertEqual((pulled.x, pulled.bottom), (moved.x, moved.bottom))
        self.assertGreater(pulled.width, start.width)
        self.frozen.focus()
        self.page.keyboard.press("ArrowLeft")
        self.page.keyboard.press("Shift+ArrowDown")
        self.page.keyboard.press("Alt+ArrowRight")
        self.expect_held(Rect(pulled.x - 1, pulled.y + 10, pulled.width + 1, pulled.height))
        self.page.get_by_label("Width in pixels").fill("321")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_test_id("becomes")).to_contain_text("56.6 × ")

    def test_enter_keeps_exactly_those_pixels(self) -> None:
        """The clipping on the rack is the frozen screen's own."""
        held = self.held()
        self.frozen.focus()
        record, picture = self.keep()
        self.assertEqual(str(record.area), str(held))
        frame = self.workshop.frame_pixels(self.frame())
        self.assertTrue(np.array_equal(picture.pixels, frame.cut(held).pixels))

    def test_esc_leaves_and_nothing_is_lost(self) -> None:
        """First the region, then the frozen screen; the rack is as before."""
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".area-box")).to_be_hidden()
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.page.get_by_role("tab", name="Rack").click()
        expect(self.page.locator(".slip")).to_have_count(3)

    def test_the_region_waits_while_a_place_is_chosen(self) -> None:
        """One goes to Place and comes back to the same frozen screen."""
        before = self.held()
        self.page.keyboard.press("p")
        self.page.get_by_label("Go to a heading or words").fill("4.2 low")
        self.page.locator(".block-found + .spot").click()
        expect(self.page.locator(".goes-to")).to_contain_text("78.5 mm")
        self.page.keyboard.press("t")
        expect(self.page.locator(".area-box")).to_be_visible()
        self.expect_held(before)
        expect(self.button("Place it, 78.5 mm Enter")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed")).to_be_visible()

    def test_without_a_place_the_way_there_is_said(self) -> None:
        """Ctrl + Enter has nowhere to land it."""
        self.page.keyboard.press("Control+Enter")
        expect(self.page.locator(".notice")).to_contain_text("No place is chosen yet")

    def test_it_snaps_into_what_lies_under_it_when_the_kind_changes(self) -> None:
        """Into the pane, the window and the monitor that it shows most of, and back to a region of that size."""
        self.page.keyboard.press("3")
        expect(self.page.get_by_role("button", name="Pane")).to_have_attribute("aria-pressed", "true")
        pane = self.held()
        known = taking.panes(self.workshop, self.frame().id)
        content = next(each.content for each in self.desk.look().windows if each.id == "tide-board")
        self.assertIn(str(pane), [str(each) for each in (*known, content)])
        self.page.keyboard.press("2")
        self.expect_held(self.box("tide-board"))
        self.page.keyboard.press("5")
        self.expect_held(Rect(0, 0, 2_560, 1_440))
        self.page.keyboard.press("1")
        self.expect_held(Rect(0, 0, 2_560, 1_440))
        expect(self.page.get_by_role("button", name="Region")).to_have_attribute("aria-pressed", "true")


class KeysOnly(TakeCase):
    """A region without a mouse."""

    def test_arrows_and_space_draw_one(self) -> None:
        """Two corners; the size is exact."""
        self.freeze()
        self.frozen.focus()
        self.page.keyboard.press("ArrowRight")
        expect(self.page.locator(".magnifier")).to_be_visible()
        words = self.page.locator(".magnifier-words").inner_text()
        x, y = (int(part) for part in re.findall(r"\d+", words.split("#")[0]))
        self.page.keyboard.press("Space")
        self.page.keyboard.press("Control+ArrowRight")
        self.page.keyboard.press("Shift+ArrowRight")
        self.page.keyboard.press("Control+ArrowDown")
        self.page.keyboard.press("Space")
        self.expect_held(Rect(x, y, 110, 100))


class Window(TakeCase):
    """Pointed at or picked; the order in which they were visited never matters."""

    def test_the_one_under_the_pointer_lights_up_and_is_taken_whole(self) -> None:
        """Its title and size are said before; a click holds it, Enter keeps it; a covered one comes whole."""
        self.freeze()
        self.kind("Window")
        tide = self.box("tide-board")
        self.page.mouse.move(*self.at(tide.x + 500, tide.y + 40))
        expect(self.page.locator(".pick-tag")).to_have_text(f"Tide board, outer quay · 1\u2009173 × {tide.height} px")
        self.click(tide.x + 500, tide.y + 40)
        self.expect_held(tide)
        expect(self.page.locator(".whole-window")).to_be_visible()
        record, picture = self.keep()
        self.assertEqual(picture.size, tide.size)
        self.assertTrue(np.array_equal(picture.pixels, self.desk.window("tide-board").pixels))
        self.assertEqual((record.kind, record.window), ("window", "Tide board, outer quay"))
        self.assertRegex(record.name, r"^Tide board, outer quay \d{4}-\d\d-\d\d \d\d\.\d\d$")

    def test_its_content_only_and_from_the_list_by_keys(self) -> None:
        """Chosen in the list while the desk is live: frozen and held in one step."""
        self.kind("Window")
        self.button("content only").click()
        entry = self.page.get_by_role("list", name="Open windows").get_by_role("button", name="Berth plan")
        entry.focus()
        self.page.keyboard.press("Enter")
        content = next(each.content for each in self.desk.look().windows if each.id == "berth-plan")
        self.expect_held(content)
        self.frozen.focus()
        _, picture = self.keep()
        self.assertTrue(np.array_equal(picture.pixels, self.desk.content("berth-plan").pixels))

    def test_none_is_taken_where_none_is_meant(self) -> None:
        """On the bare desk nothing lights up and a click holds nothing."""
        self.freeze()
        self.kind("Window")
        self.click(2_540, 1_400)
        expect(self.page.locator(".pick-box")).to_be_hidden()
        expect(self.button("Keep on the rack")).to_have_count(0)

    def test_a_window_below_is_reached_by_the_keys_for_larger_and_smaller(self) -> None:
        """The topmost first, then the one under it."""
        self.freeze()
        self.kind("Window")
        fare = self.box("fare-notice")
        self.page.mouse.move(*self.at(fare.x + 300, fare.y + 30))
        tag = self.page.locator(".pick-tag")
        expect(tag).to_contain_text("Fare notice")
        self.page.keyboard.press("]")
        expect(tag).to_contain_text("Tide board")
        self.page.keyboard.press("[")
        expect(tag).to_contain_text("Fare notice")


class Pane(TakeCase):
    """Found in the picture."""

    def setUp(self) -> None:
        """Frozen."""
        super().setUp()
        self.freeze()
        self.kind("Pane")
        log = next(each.content for each in self.desk.look().windows if each.id == "engine-log")
        self.dialog = Rect(log.x + 90, log.y + 168, 690, 264)

    def test_the_smallest_is_offered_and_larger_ones_are_a_key_away(self) -> None:
        """The dialog's button, the dialog, the log's content."""
        self.page.mouse.move(*self.at(self.dialog.x + 500, self.dialog.y + 200))
        tag = self.page.locator(".pick-tag")
        expect(tag).to_have_text(re.compile(r"20[345] × 5[12] px"))
        self.page.keyboard.press("]")
        expect(tag).to_have_text(re.compile(r"6\d\d × 2\d\d px"))
        for _ in range(8):
            self.page.keyboard.press("]")
            if "Engine log, content" in tag.inner_text():
                break
        expect(tag).to_contain_text("Engine log, content")
        for _ in range(8):
            self.page.keyboard.press("[")
            if re.search(r"69[01] × 26[345] px", tag.inner_text()):
                break
        expect(tag).to_have_text(re.compile(r"69[01] × 26[345] px"))
        self.page.mouse.click(*self.at(self.dialog.x + 500, self.dialog.y + 200))
        expect(self.page.get_by_label("Width in pixels")).to_have_value(re.compile("69[01]"))
        held = self.held()
        self.assertLessEqual(abs(held.x - self.dialog.x) + abs(held.y - self.dialog.y), 2)
        self.page.keyboard.press("[")
        expect(self.page.get_by_label("Height in pixels")).not_to_have_value(str(held.height))

    def test_a_drag_snaps_to_edges_within_six_pixels_unless_alt_is_held(self) -> None:
        """Four pixels of the view beside the dialog's corners."""
        # Its shadow has an edge too, six pixels further right and down, and a line of the log ends eight above it.
        near = (self.dialog.x - 8, self.dialog.y - 3, self.dialog.right + 2, self.dialog.bottom + 2)
        self.pull(*near)
        expect(self.button("Keep on the rack")).to_be_enabled()
        held = self.held()
        self.assertLessEqual(abs(held.x - self.dialog.x) + abs(held.right - self.dialog.right), 2)
        self.assertLessEqual(abs(held.y - self.dialog.y) + abs(held.bottom - self.dialog.bottom), 2)
        self.page.keyboard.press("Escape")
        expect(self.button("Keep on the rack")).to_have_count(0)
        self.page.keyboard.down("Alt")
        self.pull(*near)
        self.page.keyboard.up("Alt")
        expect(self.button("Keep on the rack")).to_be_enabled()
        self.assertGreaterEqual(self.held().width, self.dialog.width + 7)


class Freehand(TakeCase):
    """What lies outside the line becomes transparent."""

    def test_drawn_by_pointer_moved_and_kept(self) -> None:
        """The pixels inside are the frame's, those outside are gone, in the written file too."""
        self.freeze()
        self.kind("Freehand")
        mouse = self.page.mouse
        corners = [(900, 700), (1_200, 640), (1_300, 900), (1_000, 1_000), (880, 860)]
        mouse.move(*self.at(*corners[0]))
        mouse.down()
        for corner in [*corners[1:], corners[0]]:
            mouse.move(*self.at(*corner), steps=6)
        mouse.up()
        expect(self.button("Keep on the rack")).to_be_enabled()
        before = self.held()
        self.page.keyboard.press("Shift+ArrowRight")
        self.expect_held(before.shifted(10, 0))
        record, picture = self.keep()
        self.assertEqual((record.kind, picture.has_alpha), ("freehand", True))
        middle, corner = picture.pixels[150, 200], picture.pixels[1, 1]
        frame = self.workshop.frame_pixels(self.frame()).pixels
        self.assertEqual(middle.tolist(), [*frame[record.area_y + 150, record.area_x + 200].tolist(), 255])
        self.assertEqual(corner.tolist(), [0, 0, 0, 0])
        self.page.keyboard.press("r")
        expect(self.page.locator(".trim")).to_be_visible()
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        saved = np.asarray(Image.open(io.BytesIO(download.value.path().read_bytes())).convert("RGBA"))
        self.assertTrue(np.array_equal(saved, picture.pixels))

    def test_drawn_by_keys(self) -> None:
        """Three corners, closed with Enter."""
        self.freeze()
        self.kind("Freehand")
        self.frozen.focus()
        for key in ("ArrowLeft", "Space", "Control+ArrowRight", "Space", "Control+ArrowDown", "Space", "Enter"):
            self.page.keyboard.press(key)
        expect(self.page.get_by_label("Width in pixels")).to_have_value("100")
        _, picture = self.keep()
        alpha = picture.pixels[:, :, 3]
        self.assertLess(abs(int((alpha > 127).sum()) - 5_000), 110)


class Screen(TakeCase):
    """One monitor, or all as they stand side by side."""

    def test_each_has_its_own_scale_and_together_the_larger_counts(self) -> None:
        """In the words and in the record; between the monitors there is nothing."""
        self.freeze()
        self.kind("Screen")
        self.button("Right monitor").click()
        self.expect_held(Rect(2_560, 240, 1_920, 1_080))
        expect(self.page.get_by_test_id("becomes")).to_contain_text("508.0 × 285.8 mm")
        record, _ = self.keep()
        self.assertEqual(record.scale_factor, 1.0)
        self.freeze()
        self.button("All monitors").click()
        expect(self.page.get_by_test_id("becomes")).to_contain_text("across two monitors: counts as 150 %")
        record, picture = self.keep()
        self.assertEqual((record.scale_factor, str(picture.size)), (1.5, "4480 × 1440"))
        self.assertEqual(picture.pixels[100, 3_000].tolist(), [0, 0, 0, 0])
        self.assertEqual(picture.pixels[100, 100, 3], 255)


class LongPage(TakeCase):
    """A page higher than the screen."""

    def test_it_scrolls_by_itself_and_equals_the_page_drawn_whole(self) -> None:
        """Head and foot once, every row of the page, more than 4,000 px; live thumbnail and height meanwhile."""
        self.kind("Long page")
        self.page.get_by_role("button", name="Fare notice from 1 April, scroll it through").click()
        expect(self.page.get_by_alt_text("What has been joined so far")).to_be_visible()
        expect(self.page.get_by_label("Height in pixels")).to_have_value("4359")
        record, picture = self.keep()
        self.assertEqual((record.kind, record.window), ("long-page", "Fare notice from 1 April"))
        window = next(each for each in self.desk.scene.windows if each.id == "fare-notice")
        page = self.desk._painter._page(window, "page", window.items, window.page_height, 0)
        head, width = window.px(window.head), picture.size.width
        self.assertTrue(np.array_equal(picture.pixels[head : head + len(page)], page[:, :width]))
        self.assertGreater(width, 930)
        self.assertEqual(picture.size.height, head + len(page) + window.px(window.foot))

    def test_stop_here_keeps_what_there_is(self) -> None:
        """Long before the end."""
        self.kind("Long page")
        goes_on = threading.Event()
        self.desk.scroll = _held(self.desk, goes_on)  # type: ignore[method-assign, assignment]
        self.page.get_by_role("button", name="Fare notice from 1 April, scroll it through").click()
        stop = self.button("Stop here")
        expect(self.page.locator(".long-page-words")).to_have_text(re.compile(r"\b[2-6] strips"))
        with self.page.expect_response("**/jobs/*"):
            stop.click()
        goes_on.set()
        expect(self.page.locator(".notice")).to_contain_text("what was joined is kept")
        height = int(self.page.get_by_label("Height in pixels").input_value())
        self.assertTrue(1_000 < height < 3_500, height)


class Moments(TakeCase):
    """When it is frozen, and what moves."""

    def test_a_menu_opened_while_the_delay_runs_is_in_the_picture(self) -> None:
        """The count is seen, the desk stays live; Esc stops it, F freezes at once."""
        delay = self.page.get_by_label("Delay in seconds")
        # As long as a slow machine takes to open a menu.
        delay.fill("8")
        delay.press("Enter")
        self.page.locator(".tool-name").click()
        self.page.keyboard.press("d")
        expect(self.page.get_by_role("timer")).to_contain_text(re.compile(r"In [1-8] s"))
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("d")
        expect(self.page.get_by_role("timer")).to_be_visible()
        self.button("Log, menu of Engine log").click()
        expect(self.page.get_by_role("menu")).to_be_visible()
        menu = self.desk.look().menu
        assert menu
        expect(self.frozen).to_be_visible()
        frame = self.workshop.frame_pixels(self.frame())
        self.assertTrue(np.array_equal(frame.cut(menu.box).pixels, self.desk.menu().pixels))

    def test_a_menu_closes_when_one_presses_elsewhere(self) -> None:
        """By pointer on another window."""
        self.button("Week, menu of Crew roster").click()
        expect(self.page.get_by_role("menuitem", name="Next week")).to_be_visible()
        self.page.get_by_role("button", name="Tide board, outer quay, Space raises it").click(
            position={"x": 60, "y": 60}
        )
        expect(self.page.get_by_role("menu")).to_be_hidden()

    def test_windows_come_to_the_top_scroll_and_move(self) -> None:
        """By the list, by the wheel, by the title bar, by keys."""
        self.page.get_by_role("list", name="Open windows").get_by_role("button", name="Fare notice").click()
        notice = self.page.get_by_role("button", name="Fare notice from 1 April, on top")
        notice.hover(position={"x": 120, "y": 120})
        picture = notice.locator("img")
        before, start = picture.get_attribute("src"), self.box("fare-notice")
        self.page.mouse.wheel(0, 200)
        expect(picture).not_to_have_attribute("src", before or "")
        shown = notice.bounding_box() or self.fail("the window is not shown")
        self.drag(notice, (0.5, 0.02), (0.7, 0.02))
        # A drag is several moves on their way to the desk; only the last one's answer stands under the pointer.
        self.page.wait_for_function(
            "([window, x]) => Math.abs(window.getBoundingClientRect().x - x) < 2",
            arg=[notice.element_handle(), shown["x"] + 0.2 * shown["width"]],
        )
        self.assertLessEqual(abs(self.box("fare-notice").x - (start.x + 0.2 * start.width)), 3)
        dragged = self.box("fare-notice").y
        notice.focus()
        with self.page.expect_response("**/move"):
            self.page.keyboard.press("Shift+ArrowUp")
        self.assertEqual(self.box("fare-notice").y, dragged - 20)

    def test_the_last_area_again_shows_what_is_new_also_after_a_restart(self) -> None:
        """For a window: the same one, wherever it stands now."""
        self.freeze()
        self.kind("Window")
        self.button("All monitors").click()
        clock = self.box("quay-clock")
        self.click(clock.x + 100, clock.y + 60)
        self.expect_held(clock)
        _, first = self.keep()
        self.desk._seconds = lambda: 75.0
        self.desk.move_window("quay-clock", clock.x - 120, clock.y - 60)
        self.reload()
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.page.keyboard.press("a")
        self.expect_held(clock.shifted(-120, -60))
        _, second = self.keep()
        self.assertEqual(first.size, second.size)
        self.assertFalse(np.array_equal(first.pixels, second.pixels))


class PointerLayer(TakeCase):
    """In the picture or not, also decided afterwards."""

    def test_shown_hidden_and_moved_in_trim(self) -> None:
        """Where it was on the live desk; the bytes that leave follow."""
        board = self.page.get_by_role("button", name="Tide board, outer quay, Space raises it")
        board.hover(position={"x": 200, "y": 150})
        self.freeze()
        spot = self.frame().pointer
        assert spot
        self.pull(spot.x - 150, spot.y - 120, spot.x + 200, spot.y + 100)
        expect(self.button("Keep on the rack")).to_be_enabled()
        record, plain = self.keep()
        self.assertIsNone(record.pointer_x)
        self.page.keyboard.press("r")
        handle = self.page.locator(".pointer-handle")
        expect(self.page.locator(".trim")).to_be_visible()
        self.page.keyboard.press("m")
        expect(handle).to_be_visible()
        shown = self.workshop.pictures.finished(self.workshop.store.clippings()[0])
        rows, columns = np.nonzero((shown.pixels != plain.pixels).any(axis=2))
        self.assertLessEqual(abs(int(columns.min()) - (spot.x - record.area_x)), 4)
        self.assertLessEqual(abs(int(rows.min()) - (spot.y - record.area_y)), 4)
        handle.focus()
        with self.page.expect_response("**/pointer"):
            self.page.keyboard.press("Shift+ArrowRight")
        moved = self.workshop.store.clippings()[0]
        self.assertEqual(moved.pointer_x, spot.x - record.area_x + 10)
        expect(self.button("Pointer: shown")).to_be_visible()
        self.button("Pointer: shown").click()
        expect(handle).to_be_hidden()
        hidden = self.workshop.pictures.finished(self.workshop.store.clippings()[0])
        self.assertTrue(np.array_equal(hidden.pixels, plain.pixels))


def _held(desk: PracticeDesk, goes_on: threading.Event) -> Callable[[str, int], int]:
    """Scrolling that waits after a few steps until it may go on."""
    scroll, steps = desk.scroll, itertools.count()

    def held(window: str, by_px: int) -> int:
        if next(steps) > 3:
            goes_on.wait(60)
        return scroll(window, by_px)

    return held
