"""The HTTP interface of taking: sources, frames, kinds of cut, long pages, options, and what is refused."""

import io
import re
import unittest

import numpy as np
from PIL import Image

from tests.support.pictures import encoded, text_like
from tests.tijera.web.test_http import HttpCase
from tijera.web.app import STATIC


class TakeHttp(HttpCase):
    """A frozen desk."""

    def setUp(self) -> None:
        """Freeze."""
        self.frame = self.http.post("/sources/desk/frames", json={"pointer": {"x": 700, "y": 400}}).json()

    def take(self, **body: object) -> dict[str, object]:
        """Cut something; the clipping."""
        taken = self.http.post(f"/frames/{self.frame['id']}/clippings", json=body)
        self.assertEqual(taken.status_code, 201, taken.text)
        clipping: dict[str, object] = self.http.get(f"/clippings/{taken.json()['clipping']}").json()
        return clipping

    def picture(self, address: str) -> Image.Image:
        """A picture as an answer."""
        answer = self.http.get(address)
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "image/png"))
        return Image.open(io.BytesIO(answer.content))


class Cuts(TakeHttp):
    """Kinds and their faults."""

    def test_every_kind_is_taken(self) -> None:
        """With its area, its window and its pointer."""
        area = {"x": 90, "y": 130, "width": 300, "height": 200}
        for kind in ("region", "pane", "screen"):
            clipping = self.take(kind=kind, area=area)
            self.assertEqual((clipping["kind"], clipping["area"]), (kind, area))
        window = self.take(kind="window", window="harbour-chart", content_only=True)
        self.assertEqual(window["window"], "Harbour chart")
        drawn = self.take(kind="freehand", outline=[[10, 10], [90, 20], [40, 70]], pointer=True)
        self.assertEqual(drawn["pointer"], {"x": 690, "y": 390})
        self.assertEqual(self.picture(f"/clippings/{drawn['id']}/picture.png").mode, "P")

    def test_areas_that_can_not_be_meant_are_refused_in_words(self) -> None:
        """Nothing, half outside, far too large a number, an outline of two points."""
        address = f"/frames/{self.frame['id']}/clippings"
        for body, status, code in (
            ({"area": {"x": 5, "y": 5, "width": 0, "height": 0}}, 400, "area-empty"),
            ({"area": {"x": -9, "y": 5, "width": 20, "height": 10}}, 400, "area-outside"),
            ({"area": {"x": 4_470, "y": 5, "width": 20, "height": 10}}, 400, "area-outside"),
            ({"kind": "freehand", "outline": [[1, 1], [2, 2]]}, 400, "area-empty"),
            ({"kind": "window", "window": "nobody"}, 404, "not-found"),
            ({"area": {"x": 5, "y": 5, "width": 10**9, "height": 1}}, 422, "request-invalid"),
            ({"kind": "square", "area": {"x": 5, "y": 5, "width": 9, "height": 9}}, 422, "request-invalid"),
            ({"id": "../../etc", "area": {"x": 5, "y": 5, "width": 9, "height": 9}}, 422, "request-invalid"),
        ):
            with self.subTest(code, body=body):
                self.assert_problem(self.http.post(address, json=body), status, code)

    def test_panes_windows_and_the_pointer_of_a_frame(self) -> None:
        """Each at its own address."""
        panes = self.http.get(f"/frames/{self.frame['id']}/panes").json()["panes"]
        self.assertGreater(len(panes), 20)
        covered = [each for each in self.frame["windows"] if each["is_whole"]]
        self.assertTrue(all(each["is_covered"] for each in covered) and covered)
        shown = self.picture(f"/frames/{self.frame['id']}/windows/{covered[0]['id']}.png")
        self.assertEqual(shown.size, (covered[0]["box"]["width"], covered[0]["box"]["height"]))
        self.assertEqual(
            self.picture(f"/frames/{self.frame['id']}/pointer.png").info.get("transparency") is None, False
        )
        self.assert_problem(self.http.get(f"/frames/{self.frame['id']}/windows/nobody.png"), 404, "not-found")

    def test_a_shared_frame_comes_as_png_and_a_broken_one_is_refused(self) -> None:
        """Its title and its scale with it; it has no pointer."""
        params = {"name": "Fares", "scale_factor": "2"}
        raw = {"Content-Type": "application/octet-stream"}
        frame = self.http.post("/frames", params=params, content=encoded(text_like(300, 200)), headers=raw).json()
        self.assertEqual((frame["source"], frame["scale_factor"], frame["has_pointer"]), ("share", 2.0, False))
        self.assert_problem(self.http.get(f"/frames/{frame['id']}/pointer.png"), 404, "not-found")
        broken = self.http.post("/frames", content=encoded(text_like(300, 200))[:200], headers=raw)
        self.assert_problem(broken, 422, "picture-damaged")


class Desktop(TakeHttp):
    """Windows handled from the page."""

    def test_raised_moved_scrolled_and_their_menus_opened(self) -> None:
        """Every answer is the view after it."""
        base = "/sources/desk/windows/fare-notice"
        top = self.http.post(f"{base}/raise").json()["windows"][-1]
        self.assertEqual((top["id"], top["depth"]), ("fare-notice", 0))
        moved = self.http.post(f"{base}/move", json={"x": -200, "y": 90}).json()["windows"][-1]
        self.assertEqual(moved["box"]["x"], -200)
        scrolled = self.http.post(f"{base}/scroll", json={"by_px": 300}).json()["windows"][-1]
        self.assertEqual(scrolled["scrolled_px"], 300)
        menu = self.http.post("/sources/desk/windows/engine-log/menu", json={"title": "Log"}).json()["menu"]
        self.assertEqual(menu["items"][0], "New entry…")
        self.assertEqual(self.picture("/sources/desk/menu.png").size, (menu["box"]["width"], menu["box"]["height"]))
        closed = self.http.post("/sources/desk/windows/engine-log/menu", json={"title": None}).json()
        self.assertIsNone(closed["menu"])
        self.assert_problem(self.http.get("/sources/desk/menu.png"), 404, "not-found")
        self.assert_problem(self.http.get("/sources/moon"), 404, "not-found")

    def test_the_sources_say_what_they_can_do(self) -> None:
        """And why one is not there."""
        sources = {each["id"]: each for each in self.http.get("/sources").json()}
        self.assertEqual(list(sources), ["desk", "screen", "share", "picture"])
        self.assertTrue(sources["desk"]["abilities"]["covered_windows"]["can"])
        self.assertIn("not exact", sources["share"]["abilities"]["exact_colours"]["instead"])
        self.assertEqual(sources["screen"]["available"], not sources["screen"]["why_not"])


class Strips(TakeHttp):
    """Long pages that come strip by strip."""

    def test_joined_refused_finished_and_dropped(self) -> None:
        """A strip that does not fit is a problem; the page stays."""
        raw = {"Content-Type": "application/octet-stream"}
        whole = text_like(300, 500)
        body = {"source": "share", "title": "Fares", "scale_factor": 1}
        page = self.http.post("/long-pages", json=body).json()["id"]
        self.assert_problem(self.http.get(f"/long-pages/{page}/thumbnail.png"), 404, "not-found")

        def strip(top: int) -> bytes:
            out = io.BytesIO()
            Image.fromarray(np.ascontiguousarray(whole.pixels[top : top + 200])).save(out, "PNG")
            return out.getvalue()

        heights = []
        for top in (0, 80, 160):
            answer = self.http.post(f"/long-pages/{page}/strips", content=strip(top), headers=raw)
            heights.append((answer.json()["height"], answer.json()["joined"]))
        self.assertEqual(heights, [(200, "first"), (280, "new"), (360, "new")])
        far = self.http.post(f"/long-pages/{page}/strips", content=encoded(text_like(301, 200)), headers=raw)
        self.assert_problem(far, 422, "strip-size")
        self.assertLessEqual(max(self.picture(f"/long-pages/{page}/thumbnail.png").size), 900)
        self.assertEqual(self.http.post(f"/long-pages/{page}/finish").json()["height"], 360)
        self.assert_problem(self.http.post(f"/long-pages/{page}/finish"), 404, "not-found")
        other = self.http.post("/long-pages", json=body).json()["id"]
        self.assertEqual(self.http.delete(f"/long-pages/{other}").status_code, 204)


class OptionsHttp(TakeHttp):
    """Options and the rack."""

    def test_options_are_set_one_by_one_and_a_clash_is_a_problem(self) -> None:
        """With the other action's name."""
        self.addCleanup(self.http.patch, "/options", json={"by_day": False, "keys": {}})
        changed = self.http.patch("/options", json={"by_day": True, "keys": {"freeze": "J"}}).json()
        keys = {each["id"]: each["key"] for each in changed["actions"]}
        self.assertEqual((changed["by_day"], keys["freeze"], keys["undo"]), (True, "J", "Ctrl+Z"))
        problem = self.assert_problem(self.http.patch("/options", json={"keys": {"freeze": "T"}}), 400, "key-taken")
        self.assertIn("to Take", str(problem["detail"]))
        self.assert_problem(self.http.patch("/options", json={"delay_seconds": 0}), 422, "request-invalid")

    def test_the_rack_is_found_and_several_are_removed(self) -> None:
        """Its count is of all."""
        ids = [
            self.take(name=f"Berth {word}", area={"x": 9 * n, "y": 60, "width": 90, "height": 60})["id"]
            for n, word in enumerate(("oak", "elm", "ash"))
        ]
        found = self.http.get("/clippings", params={"words": "berth elm today"}).json()
        self.assertEqual([each["name"] for each in found["slips"]], ["Berth elm"])
        self.assertGreaterEqual(found["count"], 3)
        self.assertEqual(self.picture(f"/clippings/{ids[0]}/thumbnail.png").size, (90, 60))
        self.assertEqual(self.http.post("/clippings/removals", json={"clippings": ids}).status_code, 204)
        self.assertEqual(self.http.get("/clippings", params={"words": "berth"}).json()["slips"], [])
        self.http.post("/history/undo")
        self.assertEqual(len(self.http.get("/clippings", params={"words": "berth"}).json()["slips"]), 3)

    @unittest.skipUnless((STATIC / "index.html").is_file(), "the front end is not built: `make build`")
    def test_all_that_the_page_names_is_there(self) -> None:
        """Icon, manifest, styles, scripts."""
        root = self.server.address
        named = re.findall(r'(?:href|src)="(/[^"]*)"', self.http.get(f"{root}/").text)
        self.assertGreaterEqual(len(named), 4)
        self.assertEqual([name for name in named if self.http.get(root + name).status_code != 200], [])

    def test_the_page_can_be_installed(self) -> None:
        """Manifest and icons at the root."""
        root = self.server.address
        manifest = self.http.get(f"{root}/manifest.webmanifest")
        self.assertEqual(manifest.headers["content-type"], "application/manifest+json")
        for icon in manifest.json()["icons"]:
            answer = self.http.get(root + icon["src"])
            side = int(icon["sizes"].split("x")[0])
            self.assertEqual(Image.open(io.BytesIO(answer.content)).size, (side, side))
