"""The HTTP interface: refusals in words, only from our own page, nothing lost."""

import io
import json
import unittest
import zipfile
from collections.abc import Iterator
from typing import ClassVar

import httpx
from PIL import Image

from tests.support.docx import Docx, paragraph, section, zipped
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, photograph_like, text_like
from tests.support.server import Server
from tests.tijera.core.imaging.test_decode import png_of_size
from tests.tijera.core.test_errors import _leaves
from tijera.core.errors import DiskFull, FolderUnusable, StoreBusy, TijeraError
from tijera.web.problems import problem_of, status_of

_PAPER = Docx(paragraph("Ropes are laid out before the vessel has passed the inner light.") + section()).build()
_RAW = {"Content-Type": "application/octet-stream"}


class HttpCase(unittest.TestCase):
    """One server for the class; tests clean up nothing and depend on nothing of each other."""

    server: ClassVar[Server]
    http: ClassVar[httpx.Client]

    @classmethod
    def setUpClass(cls) -> None:
        """Start it without demo data."""
        cls.server = cls.enterClassContext(Server(with_demo_data=False))
        cls.http = cls.enterClassContext(httpx.Client(base_url=cls.server.address + "/api/v1", timeout=120))

    def upload(self, kind: str, data: bytes, name: str) -> httpx.Response:
        """Send a file."""
        return self.http.post(f"/{kind}", params={"name": name}, content=data, headers=_RAW)

    def assert_problem(self, answer: httpx.Response, status: int, code: str) -> dict[str, object]:
        """A problem object with words: RFC 9457."""
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (status, "application/problem+json"))
        problem: dict[str, object] = answer.json()
        self.assertEqual((problem["status"], problem["code"]), (status, code))
        self.assertTrue(all(problem[key] for key in ("type", "title", "detail", "remedy")))
        return problem


def _with_part(content: bytes) -> bytes:
    source = zipfile.ZipFile(io.BytesIO(_PAPER))
    parts = {name: source.read(name) for name in source.namelist()}
    return zipped(parts | {"word/document.xml": content})


_OLE = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"\0" * 900
_DTD = b'<!DOCTYPE d [<!ENTITY a "boom">]><w:document xmlns:w="u">&a;</w:document>'
BAD_FILES = [
    ("not a zip", "destinations", b"Dear crew", 422, "not-a-package"),
    ("truncated", "destinations", _PAPER[: len(_PAPER) // 2], 422, "package-truncated"),
    ("encrypted", "destinations", _OLE + "EncryptedPackage".encode("utf-16-le"), 422, "package-encrypted"),
    ("a renamed .doc", "destinations", _OLE, 422, "legacy-document"),
    ("a DTD", "destinations", _with_part(_DTD), 422, "doctype-refused"),
    ("10,000 members", "destinations", zipped({f"m{n}": b"" for n in range(10_000)}), 422, "too-many-members"),
    ("a bomb", "destinations", zipped({"word/media/a.bin": b"\0" * 300_000_000}), 422, "unpacks-too-large"),
    ("a name that leaves", "destinations", zipped({"../evil.xml": b"x"}), 422, "member-name-unsafe"),
    ("zero bytes", "destinations", b"", 422, "input-empty"),
    ("a zip, no document", "destinations", zipped({"a.txt": b"x"}), 422, "not-a-document"),
    ("broken XML", "destinations", _with_part(b"<w:document>"), 422, "part-malformed"),
    ("60,000 × 60,000", "clippings", png_of_size(60_000, 60_000), 413, "picture-too-large"),
    ("half a PNG", "clippings", encoded(text_like(300, 200))[:700], 422, "picture-damaged"),
    ("no picture", "clippings", b"<html>", 422, "not-a-picture"),
    ("an empty picture", "clippings", b"", 422, "input-empty"),
]  # fmt: skip


class BadInput(HttpCase):
    """Each case with its own code and a status of 4xx, and what was there stays."""

    def test_each_is_refused_in_words(self) -> None:
        """What is wrong and what to do."""
        self.upload("destinations", _PAPER, "Rules.docx")
        self.upload("clippings", encoded(text_like()), "a.png")
        before = self.http.get("/bench").json()
        for name, kind, data, status, code in BAD_FILES:
            with self.subTest(name):
                self.assert_problem(self.upload(kind, data, f"{name}.docx"), status, code)
        self.assertEqual(self.http.get("/bench").json(), before)

    def test_a_name_that_leaves_its_folder_is_only_a_name(self) -> None:
        """Of "../../etc/x.docx" the last part is kept."""
        self.assertEqual(self.upload("destinations", _PAPER, "../../etc/x.docx").json()["name"], "x.docx")

    def test_an_upload_over_the_guard_is_cut_off(self) -> None:
        """Without a stated length too; nothing of it is kept."""

        def endless() -> Iterator[bytes]:
            for _ in range(210):
                yield b"\0" * 1_000_000

        with httpx.Client(base_url=self.server.address + "/api/v1", timeout=120) as client:
            answer = client.post("/destinations", params={"name": "x.docx"}, content=endless(), headers=_RAW)
        self.assert_problem(answer, 413, "input-too-heavy")

    def test_requests_that_make_no_sense(self) -> None:
        """Unknown things, unreadable bodies, values out of range, wrong methods."""
        paper = self.upload("destinations", _PAPER, "Rules.docx").json()["id"]
        rectangle = {"x": 0, "y": 0, "width": 5, "height": 5}
        cases = [
            ("GET", "/frames/nobody", None, 404, "not-found"),
            ("GET", "/nowhere", None, 404, "http-404"),
            ("PUT", "/bench", None, 405, "http-405"),
            ("PUT", "/clippings/nobody/crop", rectangle, 404, "not-found"),
            ("PUT", "/clippings/nobody/crop", {**rectangle, "width": 0}, 422, "request-invalid"),
            ("PUT", "/clippings/nobody/crop", {**rectangle, "extra": 1}, 422, "request-invalid"),
            ("PUT", f"/destinations/{paper}/spot", {"spot": "b.99"}, 400, "spot-unknown"),
            ("PUT", f"/destinations/{paper}/limit", {"limit": "heavy"}, 400, "limit-unreadable"),
            ("POST", "/sources/nowhere/frames", None, 404, "not-found"),
            ("GET", f"/destinations/{paper}/media/word/none.png", None, 422, "part-missing"),
            ("POST", f"/destinations/{paper}/fit", None, 400, "limit-unreadable"),
            ("DELETE", "/jobs/nobody", None, 404, "not-found"),
        ]
        for method, path, body, status, code in cases:
            with self.subTest(f"{method} {path}"):
                self.assert_problem(self.http.request(method, path, json=body), status, code)


class OnlyFromHere(HttpCase):
    """Foreign pages and names are refused, and the page may load nothing from elsewhere."""

    def test_foreign_hosts_and_origins_are_refused(self) -> None:
        """A name that resolves to this machine is foreign all the same."""
        port = self.server.address.rsplit(":", 1)[-1]
        for headers in (
            {"Host": "evil.example"},
            {"Host": f"evil.example:{port}"},
            {"Origin": "http://evil.example"},
            {"Origin": f"http://127.0.0.1:{int(port) + 1}"},
            {"Origin": "null"},
            {"Sec-Fetch-Site": "cross-site"},
        ):
            with self.subTest(headers):
                self.assert_problem(self.http.get("/bench", headers=headers), 403, "host-refused")
        for headers in (
            {"Host": f"localhost:{port}", "Origin": f"http://localhost:{port}"},
            {"Origin": self.server.address},
        ):
            self.assertEqual(self.http.get("/bench", headers=headers).status_code, 200)

    def test_every_answer_carries_the_policy(self) -> None:
        """Scripts and styles from here only; the nonce is another one each time."""
        policies = [self.http.get(f"{self.server.address}/").headers["content-security-policy"] for _ in range(2)]
        self.assertNotEqual(*policies)
        for part in ("default-src 'none'", "script-src 'self'", "frame-ancestors 'none'", "connect-src 'self'"):
            self.assertIn(part, policies[0])
        self.assertNotIn("unsafe", policies[0])
        self.assertEqual(self.http.get("/bench").headers["x-content-type-options"], "nosniff")


class Problems(unittest.TestCase):
    """Errors on the wire."""

    def test_no_error_of_ours_is_a_fault_of_the_server(self) -> None:
        """Every leaf of the tree has a status of 4xx and survives JSON; but for a full disk (RFC 4918 §11.5) and a store that can't be used (RFC 9110 §15.6.4)."""
        for kind in _leaves(TijeraError):
            with self.subTest(kind.__name__):
                error = kind.__new__(kind)
                error.values = {}
                self.assertTrue(
                    status_of(error) // 100 == 4
                    or (isinstance(error, DiskFull) and status_of(error) == 507)
                    or (isinstance(error, StoreBusy | FolderUnusable) and status_of(error) == 503)
                )

    def test_values_that_are_not_json_become_text(self) -> None:
        """An error must never fail while it is told."""
        from tijera.core.errors import NotFound

        self.assertEqual(json.loads(json.dumps(problem_of(NotFound(what="x", key=object))))["code"], "not-found")


class Journey(HttpCase):
    """The main job over HTTP alone."""

    def test_freeze_take_place_weigh_and_download(self) -> None:
        """The bytes that are downloaded are as many as the weight says."""
        paper = self.upload("destinations", _PAPER, "Rules.docx").json()["id"]
        self.http.put(f"/destinations/{paper}/spot", json={"spot": "b.1"})
        frame = self.http.post("/sources/desk/frames").json()
        area = {"x": 100, "y": 140, "width": 640, "height": 360}
        about = self.http.post(f"/frames/{frame['id']}/weight", json=area).json()["bytes"]
        taken = self.http.post(f"/frames/{frame['id']}/clippings", json={"area": area, "place": True}).json()
        self.assertTrue(taken["placement"])
        weight = self.http.get(f"/destinations/{paper}/weight").json()
        self.assertEqual(weight["pictures"][0]["bytes"], about)
        copy = self.http.post(f"/destinations/{paper}/handovers").json()
        answer = self.http.get(f"/handovers/{copy['id']}/file")
        self.assertEqual(len(answer.content), weight["file_bytes"])
        self.assertIn("attachment", answer.headers["content-disposition"])
        sent = self.http.get(f"/placements/{taken['placement']}/picture").content
        self.assertEqual(zipfile.ZipFile(io.BytesIO(answer.content)).read("word/media/image1.png"), sent)


class LongWork(HttpCase):
    """Jobs and their events, as the browser reads them."""

    def events(self, job: str) -> list[tuple[str, dict[str, object]]]:
        """All server-sent events of a job, until it ends."""
        found: list[tuple[str, dict[str, object]]] = []
        kind = ""
        with self.http.stream("GET", f"/jobs/{job}/events") as answer:
            self.assertIn("text/event-stream", answer.headers["content-type"])
            for line in answer.iter_lines():
                if line.startswith("event:"):
                    kind = line.removeprefix("event:").strip()
                elif line.startswith("data:"):
                    found.append((kind, json.loads(line.removeprefix("data:"))))
        return found

    def heavy(self, limit: str) -> str:
        """A document with a photograph in it and a limit."""
        paper: str = self.upload("destinations", _PAPER, "Rules.docx").json()["id"]
        picture = self.upload("clippings", encoded(photograph_like(700, 400)), "quay.png").json()["clipping"]
        self.http.post(f"/destinations/{paper}/placements", json={"clipping": picture, "spot": "b.1"})
        self.http.put(f"/destinations/{paper}/limit", json={"limit": limit})
        return paper

    def test_progress_comes_first_and_the_result_last(self) -> None:
        """And the weight is what the result says."""
        paper = self.heavy("90 kB")
        job = self.http.post(f"/destinations/{paper}/fit")
        self.assertEqual(job.status_code, 202)
        events = self.events(job.json()["id"])
        self.assertEqual({kind for kind, _ in events[:-1]}, {"progress"})
        kind, fitted = events[-1]
        self.assertEqual(kind, "done")
        self.assertEqual(fitted["file_bytes"], self.http.get(f"/destinations/{paper}/weight").json()["file_bytes"])
        bench = self.http.get("/bench").json()
        self.assertEqual(bench["undo"], "Make it fit")
        self.assertIn("JPEG", bench["destination"]["placements"][0]["note"])

    def test_a_refusal_is_a_problem_with_its_figures(self) -> None:
        """As any other error is."""
        kind, problem = self.events(self.http.post(f"/destinations/{self.heavy('2 kB')}/fit").json()["id"])[-1]
        self.assertEqual((kind, problem["code"], problem["status"]), ("refused", "limit-not-met", 409))

    def test_a_stopped_job_says_so(self) -> None:
        """Nothing was changed."""
        paper = self.heavy("90 kB")
        before = self.http.get("/bench").json()["undo"]
        job = self.http.post(f"/destinations/{paper}/fit").json()["id"]
        self.assertEqual(self.http.delete(f"/jobs/{job}").status_code, 204)
        self.assertEqual(self.events(job)[-1][0], "stopped")
        self.assertEqual(self.http.get("/bench").json()["undo"], before)


class Pictures(HttpCase):
    """What is shown is cut, scaled and typed as it says."""

    def size(self, path: str) -> tuple[str, tuple[int, int]]:
        """Format and size of a picture that is answered."""
        answer = self.http.get(path)
        image = Image.open(io.BytesIO(answer.content))
        self.assertEqual(answer.headers["content-type"], f"image/{(image.format or '').lower()}")
        return image.format or "", image.size

    def test_clippings_cropped_whole_and_small(self) -> None:
        """A crop is applied unless the whole area is asked for."""
        clipping = self.upload("clippings", encoded(text_like(300, 120)), "berths.png").json()["clipping"]
        self.http.put(f"/clippings/{clipping}/crop", json={"x": 10, "y": 20, "width": 90, "height": 60})
        base = f"/clippings/{clipping}/picture.png"
        self.assertEqual(self.size(base), ("PNG", (90, 60)))
        self.assertEqual(self.size(f"{base}?whole=true"), ("PNG", (300, 120)))
        self.assertEqual(self.size(f"{base}?most=30"), ("PNG", (30, 20)))
        saved = self.http.post(f"/clippings/{clipping}/saves", json={"format": "jpeg"}).json()
        self.assertEqual(self.size(f"/handovers/{saved['id']}/file"), ("JPEG", (90, 60)))

    def test_the_desk_is_seen_window_by_window(self) -> None:
        """At its own size, in its own order."""
        view = self.http.get("/sources/desk").json()
        top = view["windows"][-1]
        self.assertEqual(top["depth"], 0)
        self.assertEqual(
            self.size(f"/sources/desk/windows/{top['id']}.png")[1], (top["box"]["width"], top["box"]["height"])
        )
        self.assertEqual(self.size("/sources/desk/ground.png")[1], (view["width"], view["height"]))
        raised = self.http.post(f"/sources/desk/windows/{view['windows'][0]['id']}/raise").json()
        self.assertEqual(raised["windows"][-1]["id"], view["windows"][0]["id"])

    def test_pictures_of_a_document_are_made_anew_before_they_are_shown(self) -> None:
        """Whatever hides in a file stays on the server; the example opens with one call."""
        paper = self.http.post("/destinations/example", json={"name": "Crew handbook.docx"}).json()["id"]
        self.assertEqual(self.size(f"/destinations/{paper}/media/word/media/image1.jpeg"), ("JPEG", (1_200, 720)))
        outline = self.http.get(f"/destinations/{paper}/outline").json()
        self.assertEqual([len(each["columns_emu"]) for each in outline["sections"]], [1, 1, 2, 2, 2, 1])


class TakeOut(HttpCase):
    """A picture of a document goes to the rack."""

    def test_it_hangs_there_whole_with_the_crop_that_it_had(self) -> None:
        """Shown as cropped; the whole is kept; one undo takes it off again; nonsense is refused."""
        frame = '<draw:frame svg:width="2cm" svg:height="1cm"><draw:image xlink:href="Pictures/7F"/></draw:frame>'
        data = Odt(p(frame), extra={"Pictures/7F": encoded(text_like(200, 100))}).build()
        opened = self.upload("destinations", data, "Berths.odt").json()["id"]
        crop = {"left": 0.25, "top": 0, "right": 0.25, "bottom": 0.4}
        answer = self.http.get(f"/destinations/{opened}/media/Pictures/7F", params={"crop": "0.25,0,0.25,0.4"})
        self.assertEqual(Image.open(io.BytesIO(answer.content)).size, (100, 60))
        taken = self.http.post(f"/destinations/{opened}/media", json={"member": "Pictures/7F", "crop": crop}).json()
        clipping = self.http.get(f"/clippings/{taken['clipping']}").json()
        self.assertEqual((clipping["name"], clipping["crop"]), ("7F", {"x": 50, "y": 0, "width": 100, "height": 60}))
        whole = self.http.get(f"/clippings/{taken['clipping']}/picture.png", params={"whole": True})
        self.assertEqual(Image.open(io.BytesIO(whole.content)).size, (200, 100))
        self.assertEqual(self.http.post("/history/undo").status_code, 204)
        self.assertEqual(self.http.get(f"/clippings/{taken['clipping']}").status_code, 404)
        for body in (
            {"member": "Pictures/7F", "crop": {"left": 2}},
            {"member": "Pictures/gone"},
            {"member": "content.xml"},
        ):
            self.assertGreaterEqual(self.http.post(f"/destinations/{opened}/media", json=body).status_code, 400, body)


class History(HttpCase):
    """Undo over HTTP, and documents that were opened before."""

    def test_undo_and_redo_say_when_there_is_nothing(self) -> None:
        """As problems, not as faults."""
        clipping = self.upload("clippings", encoded(text_like(50, 30)), "a.png").json()["clipping"]
        self.assertEqual(self.http.patch(f"/clippings/{clipping}", json={"name": "Berth plan"}).status_code, 204)
        self.assertEqual(self.http.get("/bench").json()["undo"], "Rename a")
        self.assertEqual(self.http.post("/history/undo").status_code, 204)
        self.assertEqual(self.http.get("/bench").json()["redo"], "Rename a")
        self.assertEqual(self.http.post("/history/redo").status_code, 204)
        self.assert_problem(self.http.post("/history/redo"), 409, "nothing-to-undo")
        self.assertEqual(self.http.delete(f"/clippings/{clipping}").status_code, 204)

    def test_one_goes_back_to_a_document_as_it_was_left(self) -> None:
        """With its place and its pictures; or works without any."""
        first = self.upload("destinations", _PAPER, "First.docx").json()["id"]
        self.http.put(f"/destinations/{first}/spot", json={"spot": "b.1"})
        self.upload("destinations", _PAPER, "Second.docx")
        self.assertEqual(self.http.get("/bench").json()["destination"]["name"], "Second.docx")
        self.http.put("/destinations/current", json={"id": first})
        bench = self.http.get("/bench").json()
        self.assertEqual((bench["destination"]["name"], bench["destination"]["spot"]["id"]), ("First.docx", "b.1"))
        self.http.put("/destinations/current", json={"id": None})
        self.assertIsNone(self.http.get("/bench").json()["destination"])
        names = [each["name"] for each in self.http.get("/destinations").json()]
        self.assertEqual(names[:2], ["Second.docx", "First.docx"])
        page = self.http.get("/destinations", params={"first": 1, "most": 1}).json()
        self.assertEqual([each["name"] for each in page], ["First.docx"])

    def test_measures_are_changed_by_words(self) -> None:
        """By fill, fit, or a length; what is left out stays."""
        paper = self.upload("destinations", _PAPER, "Rules.docx").json()["id"]
        clipping = self.upload("clippings", encoded(text_like(200, 90)), "b.png").json()["clipping"]
        placed = self.http.post(f"/destinations/{paper}/placements", json={"clipping": clipping, "spot": "b.0"}).json()[
            "placement"
        ]
        found = []
        for width in ("fill", "fit", "30mm"):
            self.assertEqual(self.http.patch(f"/placements/{placed}", json={"width": width}).status_code, 204)
            found.append(self.http.get("/bench").json()["destination"]["placements"][0])
        self.assertEqual([each["width_emu"] for each in found], [5_760_720, 200 * 9_525, 1_080_000])
        self.assertEqual([each["enlarged"] for each in found], [True, False, False])
        self.assertEqual(found[-1]["description"], "b")
        self.assert_problem(self.http.patch(f"/placements/{placed}", json={"width": "wide"}), 400, "length-unreadable")
