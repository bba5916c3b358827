"""What tests of taking share: the frozen screen, points on it, and what was taken."""

from __future__ import annotations

from typing import ClassVar

from playwright.sync_api import Locator, expect

from tests.browser.case import BrowserCase
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture
from tijera.desk.desk import PracticeDesk
from tijera.records import ClippingRecord, FrameRecord
from tijera.usecases.workshop import Workshop


class TakeCase(BrowserCase):
    """The Take room with the practice desk."""

    windows: ClassVar[int] = 9

    def setUp(self) -> None:
        """The live desk."""
        super().setUp()
        self.go("/take")
        expect(self.page.locator(".live-window")).to_have_count(self.windows)

    @property
    def workshop(self) -> Workshop:
        """The server's own."""
        workshop: Workshop = self.server.app.state.services.workshop
        return workshop

    @property
    def desk(self) -> PracticeDesk:
        """The practice desk itself."""
        desk = self.workshop.sources["desk"]
        assert isinstance(desk, PracticeDesk)
        return desk

    @property
    def frozen(self) -> Locator:
        """The frozen screen, once its picture is there."""
        return self.page.locator(".frozen[data-ready=true]")

    def freeze(self, key: str = "f") -> None:
        """Freeze by its key and wait for the picture and its panes."""
        with self.page.expect_response("**/panes"):
            self.page.keyboard.press(key)
        expect(self.frozen).to_be_visible()

    def kind(self, name: str) -> None:
        """Choose a kind of cut by its button."""
        button = self.page.get_by_role("group", name="Kind of cut").get_by_role("button", name=name)
        button.click()
        expect(button).to_have_attribute("aria-pressed", "true")

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Where a pixel of the frame stands on the page."""
        box = self.page.locator(".frozen").bounding_box()
        frame = self.frame()
        assert box
        return box["x"] + (x + 0.5) * box["width"] / frame.width, box["y"] + (y + 0.5) * box["height"] / frame.height

    def pull(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """Drag from one pixel of the frame to another."""
        mouse = self.page.mouse
        mouse.move(*self.at(x0, y0))
        mouse.down()
        mouse.move(*self.at((x0 + x1) / 2, (y0 + y1) / 2), steps=3)
        mouse.move(*self.at(x1, y1), steps=3)
        mouse.up()

    def click(self, x: float, y: float) -> None:
        """Click a pixel of the frame."""
        self.page.mouse.move(*self.at(x, y))
        self.page.mouse.click(*self.at(x, y))

    def frame(self) -> FrameRecord:
        """The frame that was kept last, by the time at which it was taken."""
        store = self.workshop.store
        rows = store._database.execute_sql("SELECT id FROM frame ORDER BY taken_at DESC LIMIT 1").fetchall()
        return store.find(FrameRecord, rows[0][0])

    def held(self) -> Rect:
        """What is held, as the fields say."""
        labels = ("Left edge in pixels", "Top edge in pixels", "Width in pixels", "Height in pixels")
        return Rect(*(int(self.page.get_by_label(label).input_value()) for label in labels))

    def expect_held(self, area: Rect) -> None:
        """Wait until just this is held."""
        labels = {"Left edge": area.x, "Top edge": area.y, "Width": area.width, "Height": area.height}
        for label, value in labels.items():
            expect(self.page.get_by_label(f"{label} in pixels")).to_have_value(str(value))

    def keep(self) -> tuple[ClippingRecord, Picture]:
        """Keep what is held; the clipping and its pixels."""
        before = self.workshop.store.count_clippings()
        self.frozen.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".frozen")).to_have_count(0)
        expect(self.page.locator(".notice")).to_contain_text("hangs on the rack")
        self.assertEqual(self.workshop.store.count_clippings(), before + 1)
        record = self.workshop.store.clippings()[0]
        return record, self.workshop.pictures.finished(record)

    def box(self, window: str) -> Rect:
        """Where a window stands."""
        return next(each.box for each in self.desk.look().windows if each.id == window)
