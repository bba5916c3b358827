"""The HTTP interface of the mat: edits, what is refused, in words and without loss."""

from __future__ import annotations

from typing import Any

import httpx

from tests.tijera.web.test_take_http import TakeHttp


class TrimHttp(TakeHttp):
    """A clipping on the mat."""

    def setUp(self) -> None:
        """Take one."""
        super().setUp()
        area = {"x": 90, "y": 130, "width": 600, "height": 420}
        self.clipping = str(self.take(kind="region", area=area)["id"])

    def sheet(self) -> dict[str, Any]:
        """It, as it lies on the mat."""
        found: dict[str, Any] = self.http.get(f"/clippings/{self.clipping}/sheet").json()
        return found

    def edit(self, version: str | None = None, **edit: object) -> httpx.Response:
        """One edit; the answer."""
        body = {"version": version or self.sheet()["version"], "edit": edit}
        return self.http.post(f"/clippings/{self.clipping}/edits", json=body)

    def add(self, kind: str, *points: list[float], **more: object) -> httpx.Response:
        """Make a mark; the answer."""
        return self.edit(do="add", marks=[{"kind": kind, "points": list(points), **more}])


class Marks(TrimHttp):
    """Marks by HTTP."""

    def test_every_kind_is_listed_with_its_options(self) -> None:
        kinds = {each["id"]: each for each in self.http.get("/marks/kinds").json()["kinds"]}
        self.assertEqual(len(kinds), 10)
        line = {each["name"]: each for each in kinds["line"]["options"]}
        self.assertEqual(line["weight_pt"]["unit"], "pt")
        self.assertEqual([each["name"] for each in kinds["line"]["derived"]], ["degrees", "pixels"])

    def test_an_edit_answers_with_the_new_view(self) -> None:
        """Its text, its marks, what can be undone; the style is remembered for the next of its kind."""
        after = self.add("ring", [20, 30], [90, 80], options={"colour": "plum"}).json()
        self.assertEqual(len(after["marks"]), 1)
        self.assertIn(f'data-mark="{after["added"][0]}"', after["marks"][0]["svg"])
        self.assertIn("#7a3a78", after["marks"][0]["svg"])
        self.assertEqual(after["undo"].split(" on ")[0], "Ring")
        second = self.add("ring", [20, 130], [90, 180]).json()
        self.assertEqual(second["marks"][1]["options"]["colour"], "plum")
        undone = self.http.post(f"/clippings/{self.clipping}/history/undo").json()
        self.assertEqual(undone["marks"], after["marks"])
        self.assertIsNotNone(undone["redo"])

    def test_the_later_window_is_told_and_nothing_is_overwritten(self) -> None:
        """Two windows on one clipping."""
        version = self.sheet()["version"]
        self.assertEqual(self.edit(version, do="scale", scale=0.5).status_code, 200)
        late = self.edit(version, do="scale", scale=2)
        self.assertEqual((late.status_code, late.json()["code"]), (409, "changed-elsewhere"))
        self.assertEqual(self.sheet()["scale"], 0.5)

    def test_a_request_that_is_repeated_makes_no_second_mark(self) -> None:
        """The version has moved on, and the mark carries the caller's id."""
        version = self.sheet()["version"]
        mark = {"id": "0123456789ab", "kind": "pennant", "points": [[40, 40]]}
        first = self.edit(version, do="add", marks=[mark])
        again = self.edit(version, do="add", marks=[mark])
        self.assertEqual((first.status_code, again.status_code), (200, 409))
        self.assertEqual([each["id"] for each in self.sheet()["marks"]], ["0123456789ab"])

    def test_bad_marks_are_refused_in_words(self) -> None:
        """And what was there stays."""
        self.add("pennant", [40, 40])
        before = self.sheet()
        wide = [[float(i), 5.0] for i in range(20_001)]
        cases: list[tuple[httpx.Response, str]] = [
            (self.add("arrow", [10, 10], [10, 10]), "mark-empty"),
            (self.add("pen", *wide), "mark-too-long"),
            (self.add("text", [10, 10], options={"text": "x" * 10_000}), "text-too-long"),
            (self.add("speech", [10, 10]), "mark-unknown"),
            (self.add("ring", [9_000, 9_000], [9_100, 9_100]), "mark-outside"),
            (self.edit(do="move", ids=["nobody"], dx=1, dy=1), "mark-gone"),
            (self.edit(do="crop", crop={"x": 590, "y": 0, "width": 50, "height": 50}), "crop-outside"),
            (self.edit(do="room", room={"left": -5}), "option-unreadable"),
            (
                self.edit(do="room", room={"left": 9_999, "top": 9_999, "right": 9_999, "bottom": 9_999}),
                "room-too-large",
            ),
            (self.edit(do="turn", turn={"degrees": 60}), "option-unreadable"),
            (self.edit(do="scale", scale=0), "option-unreadable"),
            (self.edit(do="lay", clipping=self.clipping, at=[0, 0]), "part-of-itself"),
            (self.http.post(f"/clippings/{self.clipping}/parts", json={"areas": []}), "area-empty"),
            (self.http.post("/clippings/joins", json={"clippings": [self.clipping]}), "area-empty"),
        ]
        for answer, code in cases:
            with self.subTest(code):
                self.assertEqual(answer.json().get("code"), code, answer.text)
                self.assertTrue(answer.json()["detail"])
                self.assertTrue(answer.json()["remedy"])
        self.assertEqual(self.sheet(), before)

    def test_what_is_no_edit_is_refused(self) -> None:
        """A crop of nothing, another verb, numbers that are none."""
        for edit in (
            {"do": "crop", "crop": {"x": 0, "y": 0, "width": 0, "height": 10}},
            {"do": "burn"},
            {"do": "move", "ids": [], "dx": "far", "dy": 0},
            {"do": "add", "marks": [{"kind": "pen", "points": [["a", "b"]]}]},
        ):
            answer = self.http.post(f"/clippings/{self.clipping}/edits", json={"version": "x", "edit": edit})
            self.assertEqual(answer.status_code, 422, edit)

    def test_right_to_left_text_is_taken_and_what_can_not_be_drawn_is_said(self) -> None:
        after = self.add("text", [40, 40], options={"text": "שלום Pier 4"}).json()
        self.assertEqual(after["marks"][0]["missing"], "")
        self.assertIn("שלום Pier 4", after["marks"][0]["svg"])
        self.assertIn('direction="rtl"', after["marks"][0]["svg"])
        lacking = self.add("text", [40, 90], options={"text": "\U00013000 Pier 4"}).json()["marks"][-1]
        self.assertEqual(lacking["missing"], "\U00013000")
        self.assertIn("? Pier 4", lacking["svg"])


class Views(TrimHttp):
    """What the mat and the place show."""

    def test_the_sent_picture_is_the_finished_one(self) -> None:
        """At natural size, and at a scale that is tried and not set."""
        self.add("black-out", [10, 10], [60, 40])
        sent = self.picture(f"/clippings/{self.clipping}/sent.png?v=1").convert("RGB")
        self.assertEqual(sent.size, (600, 420))
        self.assertEqual(sent.getpixel((30, 20)), (0, 0, 0))
        self.assertEqual(self.picture(f"/clippings/{self.clipping}/sent.png?scale=0.5").size, (300, 210))
        self.assertEqual(self.sheet()["scale"], 1)

    def test_where_the_crop_lies_on_the_finished_picture_is_said(self) -> None:
        """Margins and the edge stand before it: so *as sent* lies where the crop does."""
        self.edit(do="room", room={"left": 30, "top": 12}, ground="white")
        after = self.edit(do="edge", edge={"weight_pt": 2}).json()
        edge = (after["outer"]["width"] - 630) // 2
        self.assertGreater(edge, 0)
        self.assertEqual(after["inset_px"], [30 + edge, 12 + edge])

    def test_the_mats_picture_stays_the_same_while_marks_change(self) -> None:
        """So that drawing loads no picture anew; turning does."""
        before = self.sheet()["mat_version"]
        self.assertEqual(self.add("pennant", [40, 40]).json()["mat_version"], before)
        self.assertNotEqual(self.edit(do="turn", turn={"quarters": 1}).json()["mat_version"], before)
        self.assertEqual(self.picture(f"/clippings/{self.clipping}/picture.png?whole=true").size, (420, 600))

    def test_the_font_is_served_and_nothing_else_of_its_folder(self) -> None:
        """The very file that the server draws with."""
        root = httpx.get(f"{self.server.address}/typefaces/hyperlegible-next-400.ttf")
        self.assertEqual((root.status_code, root.headers["content-type"]), (200, "font/ttf"))
        self.assertEqual(httpx.get(f"{self.server.address}/typefaces/__init__.ttf").status_code, 404)

    def test_parts_joins_consent_and_suggestions(self) -> None:
        parts = self.http.post(
            f"/clippings/{self.clipping}/parts", json={"areas": [{"x": 5, "y": 5, "width": 90, "height": 60}]}
        ).json()["clippings"]
        joined = self.http.post("/clippings/joins", json={"clippings": [self.clipping, *parts], "stacked": True})
        self.assertEqual(joined.status_code, 201)
        hanging = {each["id"]: each for each in self.http.get("/clippings").json()["slips"]}
        self.assertLessEqual({self.clipping, *parts, *joined.json()["clippings"]}, set(hanging))
        self.assertEqual(self.http.put(f"/clippings/{self.clipping}/consent", json={"allowed": True}).status_code, 204)
        found = self.http.get(f"/clippings/{self.clipping}/suggestions?panes=true").json()
        self.assertIsInstance(found["panes"], list)
        smallest = self.http.get(f"/clippings/{self.clipping}/smallest-text").json()
        self.assertIn(smallest["grade"], ("fine", "small", "weak", "none"))
