"""Every source through the same overlay: a shared screen, this computer's, pictures that come in; and their faults."""

import base64
import io
import os
import re
import unittest
from unittest import mock

import numpy as np
from PIL import Image
from playwright.sync_api import Page, Route, expect

from tests.browser.case import ARGUMENTS, CHROMIUM, BrowserCase
from tests.browser.take import TakeCase
from tests.support.pages import page_of
from tests.support.pictures import encoded, text_like
from tests.support.xscreen import OPENBOX, XVFB, VirtualScreen
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Pixels

# A canvas instead of a screen: its stream has exactly the canvas's pixels. `shared` is a tall picture seen through a
# window of so many pixels; the test scrolls it.
_SHARE = """([address, height]) => {
    const image = new Image();
    const canvas = document.createElement('canvas');
    const ready = new Promise((resolve) => { image.onload = resolve; });
    image.src = address;
    window.sharedAt = 0;
    window.asked = 0;
    const draw = () => canvas.getContext('2d').drawImage(image, 0, -window.sharedAt);
    window.scrollShared = (to) => { window.sharedAt = to; draw(); };
    navigator.mediaDevices.getDisplayMedia = async () => {
        window.asked += 1;
        await ready;
        canvas.width = image.naturalWidth;
        canvas.height = height;
        draw();
        const stream = canvas.captureStream(30);
        window.sharedTrack = stream.getVideoTracks()[0];
        window.drawAgain = setInterval(draw, 40);
        return stream;
    };
}"""


def _address(png: bytes) -> str:
    return f"data:image/png;base64,{base64.b64encode(png).decode()}"


class Shared(TakeCase):
    """The browser's screen sharing, through a stream that is exact to the pixel."""

    # One of them turns the page's clock on, and that is the whole context's.
    own_context = True

    def share(self, page_px: Pixels, height: int) -> None:
        """Share a picture, seen through a window of that height."""
        out = io.BytesIO()
        Image.fromarray(page_px).save(out, "PNG")
        self.page.evaluate(_SHARE, [_address(out.getvalue()), height])
        self.page.get_by_label("From", exact=True).select_option("share")
        expect(self.page.locator(".shared-video")).to_be_visible()

    def test_it_is_asked_once_and_a_region_of_it_is_exact(self) -> None:
        """That video is not exact in its colours is said once; greys are."""
        pixels = np.repeat(text_like(640, 480).pixels[:, :, :1], 3, axis=2)
        self.share(pixels, 480)
        expect(self.page.locator(".notice")).to_contain_text("not exact in its colours; a pasted picture is")
        for _ in range(2):
            self.freeze()
            self.pull(100, 60, 420, 300)
            expect(self.button("Keep on the rack")).to_be_enabled()
            held = self.held()
            record, picture = self.keep()
            self.assertEqual(str(record.area), str(held))
            part = pixels[held.y : held.bottom, held.x : held.right].astype(int)
            self.assertLessEqual(int(np.abs(picture.pixels.astype(int) - part).max()), 2)
        self.assertEqual(self.page.evaluate("window.asked"), 1)
        expect(self.page.get_by_title("A shared screen comes without the pointer.")).to_be_disabled()

    def test_strips_join_while_somebody_scrolls(self) -> None:
        """Too far is said at once; going back a little goes on; what was joined is the page."""
        page = page_of(np.random.default_rng(5), 480, [("text", 1_500)])
        self.share(page, 400)
        self.kind("Long page")
        self.button("Join while I scroll").click()
        words = self.page.locator(".long-page-words")
        expect(words).to_contain_text("400 px")
        for at in (150, 300):
            self.page.evaluate("(to) => window.scrollShared(to)", at)
            expect(words).to_contain_text(f"{400 + at} px")
        self.page.evaluate("(to) => window.scrollShared(to)", 900)
        expect(self.page.locator(".long-page-says")).to_contain_text("Scrolled too far. Go back a little")
        for at in (480, 640, 800, 960, 1_100):
            self.page.evaluate("(to) => window.scrollShared(to)", at)
            expect(words).to_contain_text(re.compile(rf"{(400 + at) // 1_000 or ''}\u2009?{(400 + at) % 1_000:03} px"))
        expect(self.page.locator(".long-page-says")).to_be_hidden()
        self.button("Stop here").click()
        expect(self.page.get_by_label("Height in pixels")).to_have_value("1500")
        _, picture = self.keep()
        apart = np.abs(picture.pixels.astype(int) - page[:, : picture.size.width].astype(int)).max(axis=2)
        self.assertLess(float((apart > 40).mean()), 0.002)

    def test_when_the_shared_window_closes_what_was_frozen_stays(self) -> None:
        """It is said, and the frozen picture can still be kept."""
        self.share(text_like(640, 480).pixels, 480)
        self.freeze()
        self.page.evaluate("() => window.sharedTrack.dispatchEvent(new Event('ended'))")
        expect(self.page.get_by_role("alert")).to_contain_text("Sharing has ended")
        self.pull(50, 50, 300, 200)
        expect(self.button("Keep on the rack")).to_be_enabled()
        self.keep()
        expect(self.button("Choose what to share…")).to_be_visible()

    def test_a_refusal_is_said(self) -> None:
        """And what to do instead."""
        self.page.evaluate(
            "() => { navigator.mediaDevices.getDisplayMedia = () => Promise.reject(new DOMException('', 'NotAllowedError')); }"
        )
        self.page.get_by_label("From", exact=True).select_option("share")
        expect(self.page.get_by_role("alert")).to_contain_text("Sharing was not allowed")
        expect(self.page.get_by_role("alert")).to_contain_text("paste a picture")

    def test_a_browser_that_never_answers_is_given_up(self) -> None:
        """After a minute, which the clock of the page jumps over."""
        self.page.clock.install()
        self.page.evaluate("() => { navigator.mediaDevices.getDisplayMedia = () => new Promise(() => undefined); }")
        self.page.get_by_label("From", exact=True).select_option("share")
        expect(self.page.get_by_text("The browser asks which screen…")).to_be_visible()
        self.page.clock.fast_forward(61_000)
        expect(self.page.get_by_role("alert")).to_contain_text("The browser did not answer")
        expect(self.button("Choose what to share…")).to_be_enabled()

    def test_the_small_control_is_offered_where_the_browser_has_one(self) -> None:
        """Its button freezes; it stands beside the picture, never in it."""
        self.share(text_like(640, 480).pixels, 480)
        if not self.page.evaluate("() => 'documentPictureInPicture' in window"):
            expect(self.button("Small control")).to_have_count(0)
            return
        self.page.evaluate(
            """() => { window.documentPictureInPicture.requestWindow = async () => {
                const frame = document.createElement('iframe');
                document.body.append(frame);
                window.control = frame.contentWindow;
                return frame.contentWindow;
            }; }"""
        )
        self.button("Small control").click()
        self.page.wait_for_function("() => window.control?.document.querySelectorAll('button').length === 2")
        self.page.evaluate("() => window.control.document.querySelector('button').click()")
        expect(self.frozen).to_be_visible()


class RealSharing(unittest.TestCase):
    """One smoke test of the browser's own sharing."""

    @unittest.skipUnless(CHROMIUM.exists(), "Debian's Chromium is not installed: `make test` installs it")
    def test_the_tab_itself_is_shared_and_frozen(self) -> None:
        """Chromium gives this tab without asking; a frame of it arrives at the server."""
        from tests.browser.case import shared_browser
        from tests.support.server import Server

        kind = shared_browser().browser_type
        with Server(with_demo_data=False) as server:
            browser = kind.launch(executable_path=CHROMIUM, args=[*ARGUMENTS, "--auto-accept-this-tab-capture"])
            self.addCleanup(browser.close)
            page = browser.new_page(viewport={"width": 1_000, "height": 700})
            page.goto(f"{server.address}/take")
            page.evaluate(
                """() => { const real = navigator.mediaDevices.getDisplayMedia.bind(navigator.mediaDevices);
                navigator.mediaDevices.getDisplayMedia = (wanted) => real({ ...wanted, preferCurrentTab: true }); }"""
            )
            page.get_by_role("button", name="Rack", exact=True).click()
            page.get_by_role("tab", name="Screen").click()
            page.get_by_label("From", exact=True).select_option("share")
            page.get_by_role("button", name="Rack", exact=True).click()
            self.freeze(page)
            width = page.evaluate("() => document.querySelector('.frozen canvas').width")
            self.assertGreater(width, 300)

    def freeze(self, page: Page) -> None:
        """Once it plays."""
        expect(page.locator(".shared-video")).to_be_visible()
        page.keyboard.press("f")
        expect(page.locator(".frozen[data-ready=true]")).to_be_visible()


@unittest.skipUnless(
    XVFB.exists() and OPENBOX.exists(), "Xvfb and openbox are not installed: `make test` installs them"
)
class ThisComputer(BrowserCase):
    """This computer's screen, a virtual one, with a real window on it."""

    with_demo_data = False

    def setUp(self) -> None:
        """The server runs in the session of that screen."""
        self.virtual = self.enterContext(VirtualScreen(managed=False))
        self.virtual.window("Tide board", 120, 90, 400, 300, 0xB4402A)
        with mock.patch.dict(os.environ, {"DISPLAY": self.virtual.name}):
            super().setUp()
        workshop = self.server.app.state.services.workshop
        self.addCleanup(workshop.sources["screen"]._x.close)

    def test_a_window_is_pointed_at_and_taken_with_exact_colours(self) -> None:
        """The same overlay; the list has the window; last area again finds it where it has gone."""
        self.go()
        self.button("This computer's screen").click()
        expect(self.page.locator(".live-picture")).to_be_visible()
        expect(self.page.get_by_role("list", name="Open windows")).to_contain_text("Tide board")
        self.page.keyboard.press("2")
        self.page.get_by_role("list", name="Open windows").get_by_role("button", name="Tide board").click()
        expect(self.page.locator(".frozen[data-ready=true]")).to_be_visible()
        expect(self.page.get_by_label("Left edge in pixels")).to_have_value("120")
        self.page.locator(".frozen").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".notice")).to_contain_text("Tide board")
        workshop = self.server.app.state.services.workshop
        record = workshop.store.clippings()[0]
        picture = workshop.pictures.finished(record)
        self.assertEqual(str(picture.size), "400 × 300")
        self.assertTrue((picture.pixels == np.array([0xB4, 0x40, 0x2A])).all())


class Incoming(TakeCase):
    """Pictures that were made elsewhere."""

    def drop(self, script: str, *arguments: object) -> None:
        """Drop something onto the page."""
        self.page.evaluate(
            f"""(given) => {{ const data = new DataTransfer(); ({script})(data, given);
            document.body.dispatchEvent(new DragEvent('drop', {{ dataTransfer: data, bubbles: true, cancelable: true }})); }}""",
            list(arguments),
        )

    def test_a_picture_dragged_from_another_page(self) -> None:
        """With its bytes in the address it is taken; with an address of the net nothing is fetched, and that is said."""
        picture = text_like(80, 50)
        html = f'<p>x</p><img src="{_address(encoded(picture))}">'
        self.drop("(data, [html]) => data.setData('text/html', html)", html)
        expect(self.page.locator(".slip-name").first).to_have_text("Dragged picture")
        kept = self.workshop.pictures.finished(self.workshop.store.clippings()[0])
        self.assertTrue(np.array_equal(kept.pixels, picture.pixels))
        requests: list[str] = []
        self.page.on("request", lambda request: requests.append(request.url))
        self.drop("(data, [address]) => data.setData('text/uri-list', address)", "http://pictures.invalid/quay.png")
        expect(self.page.get_by_role("alert")).to_contain_text("fetches nothing from the net")
        self.assertEqual([url for url in requests if "invalid" in url], [])

    def test_a_paste_without_a_picture_is_said(self) -> None:
        """Into a field it is the field's."""
        self.page.evaluate("() => navigator.clipboard.writeText('only words')")
        self.page.keyboard.press("Control+v")
        expect(self.page.get_by_role("alert")).to_contain_text("holds no picture and no document")
        self.button("Close").click()
        self.page.get_by_role("tab", name="Rack").click()
        self.page.get_by_label("Find a clipping by name, window or day").focus()
        self.page.keyboard.press("Control+v")
        expect(self.page.get_by_label("Find a clipping by name, window or day")).to_have_value("only words")
        expect(self.page.get_by_role("alert")).to_have_count(0)

    def test_two_hundred_files_at_once(self) -> None:
        """Progress meanwhile; the broken ones are named, the others hang on the rack."""
        good = base64.b64encode(encoded(text_like(40, 30))).decode()
        self.drop(
            """(data, [good]) => { const bytes = Uint8Array.from(atob(good), (sign) => sign.charCodeAt(0));
            for (let i = 0; i < 200; i += 1) data.items.add(new File([i % 50 === 7 ? 'no picture' : bytes], `quay-${i}.png`)); }""",
            good,
        )
        expect(self.page.locator(".notice progress")).to_be_visible()
        expect(self.page.get_by_role("alert")).to_contain_text("196 of 200 pictures hang on the rack", timeout=60_000)
        expect(self.page.get_by_role("alert")).to_contain_text("quay-57.png: this is not a picture")
        self.assertEqual(self.workshop.store.count_clippings(), 199)

    def test_a_new_picture_on_the_clipboard_is_offered_on_return(self) -> None:
        """Once, with one action; our own copy is not."""
        away, back = "() => window.dispatchEvent(new Event('blur'))", "() => window.dispatchEvent(new Event('focus'))"
        self.page.bring_to_front()
        write = """async (good) => { const bytes = Uint8Array.from(atob(good), (sign) => sign.charCodeAt(0));
            await navigator.clipboard.write([new ClipboardItem({ 'image/png': new Blob([bytes], { type: 'image/png' }) })]); }"""
        self.page.evaluate(away)
        self.page.evaluate(write, base64.b64encode(encoded(text_like(90, 60))).decode())
        self.page.evaluate(back)
        offer = self.button("Hang it on the rack")
        offer.click()
        expect(self.page.locator(".slip-name").first).to_have_text("Pasted picture")
        self.page.evaluate(away)
        self.page.evaluate(back)
        self.page.get_by_role("tab", name="Rack").click()
        expect(offer).to_have_count(0)


class Faults(TakeCase):
    """What goes wrong while taking."""

    def test_the_server_goes_away_and_comes_back(self) -> None:
        """It is said and tried again; the clipping is taken once, with what was held."""
        self.freeze()
        self.pull(300, 300, 700, 600)
        expect(self.button("Keep on the rack")).to_be_enabled()
        held = self.held()
        asked: list[Route] = []
        self.page.route("**/frames/*/clippings", lambda route: asked.append(route))  # noqa: PLW0108  (the driver takes functions only)

        def next_asked() -> Route:
            count = len(answered) + 1
            while len(asked) < count:
                self.page.evaluate("() => new Promise(requestAnimationFrame)")
            answered.append(asked[count - 1])
            return answered[-1]

        answered: list[Route] = []
        self.page.keyboard.press("Enter")
        # First no connection, then the request arrives but its answer is lost, then all is well.
        next_asked().abort("connectionrefused")
        expect(self.page.locator(".notice")).to_contain_text("trying again")
        second = next_asked()
        second.fetch()
        second.abort("connectionrefused")
        next_asked().continue_()
        sent = [str(route.request.post_data) for route in asked]
        expect(self.page.locator(".notice")).to_contain_text("hangs on the rack")
        self.assertEqual((len(sent), len(set(sent))), (3, 1))
        self.assertEqual(self.workshop.store.count_clippings(), 4)
        self.assertEqual(str(self.workshop.store.clippings()[0].area), str(held))
        self.complaints.clear()

    def test_the_screen_has_another_size_when_it_is_cut(self) -> None:
        """The frozen picture counts; that it differs is said."""
        self.freeze()
        self.pull(300, 300, 700, 600)
        expect(self.button("Keep on the rack")).to_be_enabled()
        look = self.desk.look()
        smaller = type(look)(Rect(0, 0, 1_920, 1_080).size, look.monitors, look.windows, look.ground_version)
        self.desk.look = lambda: smaller  # type: ignore[method-assign]
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".notice")).to_contain_text("The screen is 1920 × 1080 px now")
        self.assertEqual(self.workshop.store.count_clippings(), 4)


class Installable(BrowserCase):
    """Always at hand."""

    def test_the_browser_finds_nothing_that_keeps_it_from_being_installed(self) -> None:
        """By the browser's own judgement, over its debugging protocol."""
        self.go()
        session = self.context.new_cdp_session(self.page)
        manifest = session.send("Page.getAppManifest")
        self.assertEqual(manifest["errors"], [])
        self.assertIn("Tijera", manifest["data"])
        errors = session.send("Page.getInstallabilityErrors")["installabilityErrors"]
        # A context without a profile, as tests have it, can install nothing at all.
        self.assertEqual([each["errorId"] for each in errors if each["errorId"] != "in-incognito"], [])
