"""Taking with a finger: every cut by touch, handles large enough."""

from playwright.sync_api import CDPSession, expect

from tests.browser.marks import MarkCase
from tests.browser.take import TakeCase
from tijera.core.geometry import Rect

XY = tuple[float, float]


def pinch(session: CDPSession, first: tuple[XY, XY], second: tuple[XY, XY], steps: int = 5) -> None:
    """Lay one finger down, a second one, move both from where they were laid to where they are lifted."""

    def send(kind: str, *points: XY) -> None:
        touches = [{"x": x, "y": y, "id": number} for number, (x, y) in enumerate(points)]
        session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": touches})

    def at(way: tuple[XY, XY], share: float) -> XY:
        (left, top), (right, bottom) = way
        return left + (right - left) * share, top + (bottom - top) * share

    # The first one has begun something by then.
    send("touchStart", (first[0][0] - 8, first[0][1]))
    send("touchMove", first[0])
    send("touchStart", first[0], second[0])
    for step in range(1, steps + 1):
        send("touchMove", at(first, step / steps), at(second, step / steps))
    send("touchEnd")


class Finger(TakeCase):
    """Touch events as the browser makes them of a finger on the glass."""

    has_touch = True

    def setUp(self) -> None:
        """Frozen, by a tap."""
        super().setUp()
        self.session: CDPSession = self.context.new_cdp_session(self.page)
        with self.page.expect_response("**/panes"):
            self.button("Freeze F").tap()
        expect(self.frozen).to_be_visible()

    def swipe(self, *points: tuple[float, float]) -> None:
        """Lay a finger down, move it over pixels of the frame, lift it."""
        for number, point in enumerate(points):
            x, y = self.at(*point)
            kind = "touchMove" if number else "touchStart"
            self.session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y}]})
        # A finger that is lifted in the middle of a movement would fling, and the next tap would only stop that.
        self.page.wait_for_timeout(150)
        self.session.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})

    def tap_kind(self, name: str) -> None:
        """Choose a kind of cut."""
        button = self.page.get_by_role("group", name="Kind of cut").get_by_role("button", name=name)
        button.tap()
        expect(button).to_have_attribute("aria-pressed", "true")

    def tap(self, x: float, y: float) -> None:
        """Tap a pixel of the frame."""
        self.page.touchscreen.tap(*self.at(x, y))

    def test_a_region_is_drawn_pulled_and_kept(self) -> None:
        """The handles are 32 CSS pixels or more."""
        self.swipe((2_300, 1_380), (2_380, 1_400), (2_500, 1_430))
        expect(self.button("Keep on the rack")).to_be_enabled()
        before = self.held()
        grip = self.page.locator(".area-grip-nw").bounding_box()
        assert grip
        self.assertGreaterEqual(min(grip["width"], grip["height"]), 32)
        self.swipe((before.x, before.y), (before.x - 60, before.y - 20), (before.x - 120, before.y - 60))
        expect(self.page.get_by_label("Width in pixels")).not_to_have_value(str(before.width))
        held = self.held()
        self.assertLessEqual(abs(held.right - before.right) + abs(held.bottom - before.bottom), 1)
        self.assertLess(held.x, before.x - 90)
        self.button("Keep on the rack").tap()
        expect(self.page.locator(".notice")).to_contain_text("hangs on the rack")
        self.assertEqual(str(self.workshop.store.clippings()[0].area), str(held))

    def test_windows_panes_and_monitors_are_tapped(self) -> None:
        """One tap holds what lies there."""
        self.tap_kind("Window")
        tide = self.box("tide-board")
        self.tap(tide.x + 500, tide.y + 200)
        self.expect_held(tide)
        self.tap_kind("Pane")
        log = next(each.content for each in self.desk.look().windows if each.id == "engine-log")
        self.tap(log.x + 600, log.y + 370)
        expect(self.page.get_by_label("Height in pixels")).not_to_have_value(str(tide.height))
        self.assertLess(self.held().width, 220)
        self.tap_kind("Screen")
        self.button("Left monitor").tap()
        self.expect_held(Rect(0, 0, 2_560, 1_440))

    def test_two_fingers_zoom_what_lies_between_them_and_draw_nothing(self) -> None:
        """Three times as far apart: three times as large, the middle where it was; moved together, it goes along."""
        before = self.frozen.bounding_box()
        assert before
        x, y = self.at(900, 500)
        pinch(self.session, ((x - 20, y), (x - 60, y)), ((x + 20, y), (x + 60, y)))
        expect(self.page.get_by_title("The whole screen")).to_be_enabled()
        larger = self.frozen.bounding_box()
        assert larger
        self.assertAlmostEqual(larger["width"] / before["width"], 3, delta=0.02)
        there = self.at(900, 500)
        self.assertLess(max(abs(there[0] - x), abs(there[1] - y)), 1.5)
        pinch(self.session, ((x - 20, y), (x + 30, y + 40)), ((x + 20, y), (x + 70, y + 40)))
        self.page.wait_for_timeout(50)
        moved = self.at(900, 500)
        self.assertLess(max(abs(moved[0] - x - 50), abs(moved[1] - y - 40)), 1.5)
        self.assertEqual(self.page.get_by_label("Width in pixels").input_value(), "")

    def test_an_outline_is_drawn_by_hand(self) -> None:
        """Round a part of the chart."""
        self.tap_kind("Freehand")
        self.swipe((900, 800), (1_100, 760), (1_250, 900), (1_100, 1_050), (930, 980), (900, 810))
        expect(self.button("Keep on the rack")).to_be_enabled()
        self.button("Keep on the rack").tap()
        expect(self.page.locator(".notice")).to_contain_text("hangs on the rack")
        record = self.workshop.store.clippings()[0]
        self.assertEqual(record.kind, "freehand")
        self.assertTrue(self.workshop.pictures.finished(record).has_alpha)

    def test_a_long_page_begins_with_a_tap(self) -> None:
        """On the live desk."""
        self.tap_kind("Long page")
        self.page.get_by_role("button", name="Fare notice from 1 April, scroll it through").tap()
        expect(self.page.get_by_label("Height in pixels")).to_have_value("4359")


class FingerOnTheMat(MarkCase):
    """Two fingers in Trim."""

    has_touch = True

    def test_a_pinch_with_the_pen_leaves_no_stroke_and_one_at_a_grip_no_crop(self) -> None:
        """It zooms; what the first finger had begun is let go."""
        session = self.context.new_cdp_session(self.page)
        picture = self.page.locator(".mat-picture").first
        crop = self.record().crop
        for tool in ("pen", "crop"):
            with self.subTest(tool):
                self.tool(tool)
                box = (self.page.locator(".area-grip-s") if tool == "crop" else picture).bounding_box()
                before = picture.bounding_box()
                assert box
                assert before
                x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
                pinch(session, ((x, y), (x - 60, y - 60)), ((x + 60, y + 20), (x + 120, y + 20)))
                self.wait_until(lambda: (picture.bounding_box() or before)["width"] > 1.5 * before["width"])  # noqa: B023
                self.page.keyboard.press("0")
        self.page.wait_for_timeout(200)
        self.assertEqual((self.marks(), self.record().crop), ((), crop))
        expect(self.button("Crop it")).to_have_count(0)
