"""The command line: JSON on standard output, messages on standard error, exit status by kind."""

import contextlib
import io
import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.support.docx import Docx, members, paragraph, section
from tests.support.odt import Odt, p
from tests.support.pictured import pictured
from tests.support.pictures import encoded, photograph_like, text_like
from tijera import cli
from tijera.cli import main
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.places.spots import Stand
from tijera.demo.handbook import make_handbook
from tijera.demo.notice import make_notice
from tijera.demo.tide_table import make_tide_table

_PAPER = Docx(paragraph("Ropes are laid out") + paragraph("Nobody stands between") + section()).build()


class CommandLine(unittest.TestCase):
    """Every command, by its exit status and what it writes."""

    def setUp(self) -> None:
        """A document and a picture in a folder."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        (self.folder / "in.docx").write_bytes(_PAPER)
        (self.folder / "tide.png").write_bytes(encoded(text_like(300, 180)))

    def run_cli(self, *arguments: str) -> tuple[int, str, str]:
        """Run it in the folder; give status, output and messages."""
        out, said = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(said), contextlib.chdir(self.folder):
            try:
                status = main(arguments)
            except SystemExit as error:
                status = int(error.code or 0)
        return status, out.getvalue(), said.getvalue()

    def place(self, *more: str) -> tuple[int, str, str]:
        """Place the picture behind the first paragraph."""
        return self.run_cli(
            "place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--out", "out.docx", "--force", *more
        )

    def test_spots(self) -> None:
        """Ids, kinds, texts, widths, height."""
        status, out, said = self.run_cli("spots", "in.docx", "--json")
        found = json.loads(out)["spots"]
        self.assertEqual((status, said, [spot["id"] for spot in found]), (0, "", ["b.0", "b.1", "b.2"]))
        self.assertEqual(found[1], {"id": "b.1", "kind": "body", "after": "Ropes are laid out", "widths_emu": [5_760_720], "height_emu": 8_892_540})  # fmt: skip
        self.assertIn("160.0 mm", self.run_cli("spots", "in.docx")[1])

    def test_a_reader_that_has_enough_is_no_error(self) -> None:
        """Piped into something that stops reading, it ends quietly."""
        command = [
            sys.executable,
            "-c",
            "import sys; from tijera.cli import main; sys.exit(main())",
            "spots",
            "in.docx",
        ]
        running = subprocess.Popen(command, cwd=self.folder, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
        with running:
            assert running.stdout is not None
            assert running.stderr is not None
            running.stdout.close()
            said = running.stderr.read()
        self.assertEqual((running.returncode, said), (0, b""))

    def test_place(self) -> None:
        """The figures are those of the written file; the input stays."""
        status, out, _ = self.place("--alt", "Tide of 12 March", "--scale-factor", "1.5", "--json")
        result = json.loads(out)
        written = (self.folder / "out.docx").read_bytes()
        self.assertEqual((status, result["spot"], result["file_bytes"]), (0, "b.1", len(written)))
        self.assertEqual((result["width_emu"], result["height_emu"]), (1_905_000, 1_143_000))
        self.assertEqual(result["picture_bytes"], len(members(written)["word/media/image1.png"]))
        self.assertEqual(result["ppi"], 144.0)
        self.assertIn(b"Tide of 12 March", members(written)["word/document.xml"])
        self.assertEqual((self.folder / "in.docx").read_bytes(), _PAPER)

    def test_an_odt_is_told_by_its_content(self) -> None:
        """The same three commands, whatever the file is called."""
        data = Odt(p("Ropes are laid out") + p("two")).build()
        (self.folder / "in.docx").write_bytes(data)
        found = json.loads(self.run_cli("spots", "in.docx", "--json")[1])["spots"]
        self.assertEqual([(spot["id"], spot["widths_emu"]) for spot in found][1], ("b.1", [6_120_000]))
        self.assertEqual(self.place("--width", "60mm", "--alt", "Tide")[0], 0)
        written = (self.folder / "out.docx").read_bytes()
        self.assertIn(b'svg:width="60mm"', members(written)["content.xml"])
        weighed = json.loads(self.run_cli("weigh", "out.docx", "--json")[1])
        self.assertEqual([each["name"] for each in weighed["pictures"]], ["Pictures/image1.png"])
        (self.folder / "in.docx").write_bytes(Odt(p("x"), mimetype=b"application/zip").build())
        status, _, said = self.run_cli("spots", "in.docx")
        self.assertEqual(status, 4)
        self.assertIn("no document, spreadsheet or message that Tijera knows", said)

    def test_sheets_and_messages(self) -> None:
        """A cell and the columns that are filled from there; in the body, as a file, or both; taken out again by name."""
        (self.folder / "tides.xlsx").write_bytes(make_tide_table())
        (self.folder / "notice.eml").write_bytes(make_notice())
        into = ("--picture", "tide.png", "--json", "--out")
        self.assertIn("Tides!A63", self.run_cli("spots", "tides.xlsx")[1])
        status, out, _ = self.run_cli(
            "place", "tides.xlsx", "--anchor", "Tides!B3", "--span", "B:F", "--grow-row", *into, "out.xlsx"
        )
        # B has 117 pixels, C to F 82 each.
        self.assertEqual(
            (status, json.loads(out)["spot"], json.loads(out)["width_emu"]), (0, "Tides!B3:F3", 445 * 9_525)
        )
        sheet = members((self.folder / "out.xlsx").read_bytes())["xl/worksheets/sheet1.xml"].decode()
        self.assertIn(f'ht="{json.loads(out)["height_emu"] / 12_700:.4f}"', sheet)
        status, out, _ = self.run_cli(
            "place", "notice.eml", "--spot", "h.3", "--inline", "--attach", "--caption", "Tide window", *into, "out.eml"
        )
        self.assertEqual(status, 0)
        weighed = json.loads(self.run_cli("weigh", "out.eml", "--json")[1])
        self.assertEqual(sorted(each["name"] for each in weighed["pictures"]), ["tide (in the text).png", "tide.png"])
        self.assertEqual(self.run_cli("pictures", "out.eml", "--out", "taken")[0], 0)
        self.assertEqual(
            (self.folder / "taken" / "tide.png").read_bytes(),
            (self.folder / "taken" / "tide (in the text).png").read_bytes(),
        )
        for wrong in (
            ("--anchor", "B3", "--span", "D:F"),
            ("--anchor", "ZZZZ9"),
            ("--anchor", "B3", "--margin", "soon"),
        ):
            self.assertEqual(self.run_cli("place", "tides.xlsx", *wrong, *into, "x.xlsx")[0], 2)
        self.assertFalse((self.folder / "x.xlsx").exists())

    def test_how_a_picture_stands(self) -> None:
        """Beside the text with a margin, with a caption above; the words for it are those that the core has."""
        self.assertEqual(cli._STANDS, [stand.value for stand in Stand])
        wishes = ("--stand", "text-left", "--margin", "5mm", "--width", "60mm", "--caption", "Tide", "--caption-above")
        self.assertEqual(self.place(*wishes)[0], 0)
        main = members((self.folder / "out.docx").read_bytes())["word/document.xml"].decode()
        self.assertIn('w:hSpace="283"', main)
        self.assertLess(main.index(": Tide"), main.index("<wp:inline"))
        (self.folder / "in.docx").write_bytes(Docx(paragraph("x"), extra={"_xmlsignatures/s.xml": b"<x/>"}).build())
        self.assertEqual((self.place()[0], self.place("--signed")[0]), (4, 0))

    def test_text_finds_room_beside_a_picture(self) -> None:
        """One that would fill its place becomes half as wide, unless a width is asked for."""
        (self.folder / "tide.png").write_bytes(encoded(photograph_like(1_200, 300)))
        for wishes, expected in (
            ((), 5_760_720),
            (("--stand", "text-left"), 2_880_360),
            (("--stand", "text-left", "--width", "fill"), 5_760_720),
            (("--stand", "text-right", "--width", "150mm"), 5_400_000),
        ):
            self.assertEqual(json.loads(self.place(*wishes, "--json")[1])["width_emu"], expected, wishes)

    def test_place_with_a_width(self) -> None:
        """Typed, or the whole place with a warning where that enlarges."""
        self.assertEqual(json.loads(self.place("--width", "60mm", "--json")[1])["width_emu"], 2_160_000)
        status, out, said = self.place("--width", "fill", "--json")
        self.assertEqual((status, json.loads(out)["width_emu"]), (0, 5_760_720))
        self.assertIn("larger than its natural size", said)

    def test_place_under_a_limit(self) -> None:
        """Met by giving something up, or refused with status 3 and nothing written."""
        (self.folder / "tide.png").write_bytes(encoded(photograph_like(500, 300)))
        free = json.loads(self.place("--json")[1])["file_bytes"]
        (self.folder / "out.docx").unlink()
        status, out, _ = self.place("--limit", f"{free // 2}B", "--json")
        self.assertEqual(status, 0)
        self.assertLessEqual((self.folder / "out.docx").stat().st_size, free // 2)
        self.assertEqual(json.loads(out)["file_bytes"], (self.folder / "out.docx").stat().st_size)
        (self.folder / "out.docx").unlink()
        status, out, said = self.place("--limit", "1kB", "--json")
        self.assertEqual((status, out, (self.folder / "out.docx").exists()), (3, "", False))
        self.assertIn("over its limit", said)

    def test_a_folder_is_weighed_the_heaviest_file_first(self) -> None:
        """Each file's pictures; what can't be read is told, and the others are weighed."""
        self.place()
        (self.folder / "deeper").mkdir()
        (self.folder / "out.docx").rename(self.folder / "deeper/placed.docx")
        status, out, _ = self.run_cli("weigh", ".", "--json")
        files = json.loads(out)["files"]
        self.assertEqual((status, [each["name"] for each in files]), (0, ["deeper/placed.docx", "in.docx"]))
        self.assertEqual([len(each["pictures"]) for each in files], [1, 0])
        self.assertEqual(files[0]["file_bytes"], (self.folder / "deeper/placed.docx").stat().st_size)
        (self.folder / "odd.docx").write_bytes(b"Dear crew")
        status, out, said = self.run_cli("weigh", ".")
        self.assertEqual((status, len(out.splitlines())), (4, 3))
        self.assertIn("odd.docx", said)

    def test_a_slimmed_message_whose_seal_is_broken_is_told(self) -> None:
        """On standard error; a message without one, and one that is under its limit already, are not."""
        for seal, limit, told in ((b"DKIM-Signature: v=1; d=quillhaven.example\r\n", 9, True), (b"", 9, False)):
            picture = pictured([(encoded(photograph_like(300, 200), "JPEG", quality=96), "jpeg")], "eml")
            (self.folder / "in.eml").write_bytes(seal + picture)
            size = len(seal + picture) * limit // 10
            status, _, said = self.run_cli("fit", "in.eml", "--limit", f"{size}B", "--out", "out.eml", "--force")
            self.assertEqual((status, "no longer holds" in said), (0, told), said)
        (self.folder / "in.eml").write_bytes(b"DKIM-Signature: v=1\r\n" + picture)
        self.assertEqual(self.run_cli("fit", "in.eml", "--limit", "9MB", "--out", "out.eml", "--force")[2], "")

    def test_a_cluster_that_can_not_be_used_is_said_before_any_work(self) -> None:
        """No scheduler there; a number of jobs beside it, which would have no effect; for a single file."""
        (self.folder / "files").mkdir()
        (self.folder / "in.docx").rename(self.folder / "files/in.docx")
        where = ("--limit-each", "1MB", "--out", "copies")
        for more, words in (
            (("--cluster", "tcp://127.0.0.1:9"), "does not answer|No scheduler answers"),
            (("--cluster", "tcp://127.0.0.1:9", "--jobs", "2"), "no effect"),
        ):
            status, _, said = self.run_cli("fit", "files", *where, *more)
            self.assertEqual(status, 2)
            self.assertRegex(said, words)
        status, _, said = self.run_cli("fit", "files/in.docx", "--limit", "1MB", "--out", "x", "--cluster", "tcp://h:1")
        self.assertEqual(status, 2)
        self.assertIn("for a folder", said)

    def test_what_is_not_there_is_said_whatever_limit_is_given(self) -> None:
        """Not that it were a file or a folder."""
        for limit in ("--limit", "--limit-each"):
            status, _, said = self.run_cli("fit", "gone", limit, "1MB", "--out", "x")
            self.assertEqual((status, said), (2, "tijera: gone: No such file or directory.\n"))

    def test_weigh(self) -> None:
        """The handbook's three pictures, the heaviest first."""
        (self.folder / "book.docx").write_bytes(make_handbook())
        status, out, _ = self.run_cli("weigh", "book.docx", "--json")
        weight = json.loads(out)
        self.assertEqual((status, weight["file_bytes"]), (0, (self.folder / "book.docx").stat().st_size))
        first = weight["pictures"][0]
        self.assertEqual(first["name"], "word/media/image1.jpeg")
        self.assertEqual((first["pixels"], first["times_used"]), ({"width": 2_000, "height": 1_200}, 1))
        self.assertEqual(first["bytes"], len(members(make_handbook())["word/media/image1.jpeg"]))
        self.assertAlmostEqual(first["ppi"], 2_000 / (165 / 25.4), delta=0.01)
        self.assertIn("image3.jpeg", self.run_cli("weigh", "book.docx")[1])

    def test_pictures_are_taken_out_into_a_folder(self) -> None:
        """To the byte as stored; a second time nothing is replaced."""
        (self.folder / "book.docx").write_bytes(make_handbook())
        status, out, _ = self.run_cli("pictures", "book.docx", "--out", "taken", "--stored", "--json")
        names = [each["name"] for each in json.loads(out)["pictures"]]
        self.assertEqual((status, sorted(names)), (0, ["image1.jpg", "image2.jpg", "image3.jpg"]))
        stored = members(make_handbook())["word/media/image1.jpeg"]
        self.assertEqual((self.folder / "taken" / "image1.jpg").read_bytes(), stored)
        (self.folder / "taken" / "image1.jpg").write_bytes(b"mine")
        self.assertEqual(self.run_cli("pictures", "book.docx", "--out", "taken")[0], 2)
        self.assertEqual((self.folder / "taken" / "image1.jpg").read_bytes(), b"mine")
        self.assertIn("from word/media/image2.jpeg", self.run_cli("pictures", "book.docx", "--out", "other")[1])

    def test_wrong_calls_and_refused_input(self) -> None:
        """2 for the call, 4 for what came in; the message is on standard error and nothing is written."""
        (self.folder / "bad.docx").write_bytes(b"Dear crew")
        (self.folder / "bad.png").write_bytes(b"\x89PNG\r\n\x1a\nhalf")
        common = ("--out", "out.docx")
        cases = [
            (2, ("place", "in.docx")),
            (2, ("place", "in.docx", "--spot", "b.9", "--picture", "tide.png", *common)),
            (2, ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--width", "wide", *common)),
            (2, ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--width", "900mm", *common)),
            (2, ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--limit", "much", *common)),
            (2, ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--scale-factor", "0", *common)),
            (2, ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--out", "in.docx")),
            (2, ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png", "--out", "nowhere/out.docx")),
            (2, ("spots", "missing.docx")),
            (2, ("nonsense",)),
            (4, ("spots", "bad.docx")),
            (4, ("weigh", "bad.docx", "--json")),
            (4, ("place", "in.docx", "--spot", "b.1", "--picture", "bad.png", *common)),
        ]
        before = sorted(path.name for path in self.folder.iterdir())
        for wanted, arguments in cases:
            with self.subTest(" ".join(arguments)):
                status, out, said = self.run_cli(*arguments)
                self.assertEqual((status, out), (wanted, ""))
                self.assertTrue(said.strip())
                self.assertEqual(sorted(path.name for path in self.folder.iterdir()), before)
        self.assertEqual((self.folder / "in.docx").read_bytes(), _PAPER)

    def test_what_has_no_effect_is_refused_and_said(self) -> None:
        """A wish that its place can't fulfil, two that contradict each other."""
        (self.folder / "tides.xlsx").write_bytes(make_tide_table())
        cases = [
            (("--stand", "word", "--caption", "Tide"), "A caption is not possible like a word"),
            (("--stand", "hangs"), "Standing “hangs” is not possible in a text document"),
            (("--inline",), "Standing “in-body” is not possible in a text document"),
            (("--attach",), "Standing “attached” is not possible in a text document"),
            (("--caption-above",), "there is no caption"),
            (("--grow-row",), "no row that can grow"),
            (("--stand", "word", "--inline"), "each says how it stands"),
        ]
        for wishes, words in cases:
            with self.subTest(wishes=wishes):
                status, out, said = self.place(*wishes)
                self.assertEqual((status, out, (self.folder / "out.docx").exists()), (2, "", False))
                self.assertIn(words, said)
        sheet = ("place", "tides.xlsx", "--anchor", "B3", "--picture", "tide.png", "--out", "out.xlsx")
        for wishes in (("--caption", "Tide"), ("--margin", "3mm"), ("--align", "left"), ("--beside", "Tide")):
            self.assertEqual(self.run_cli(*sheet, *wishes)[0], 2, wishes)

    def test_where_the_copy_goes(self) -> None:
        """Nothing is replaced unasked; a folder that is missing is named; - is standard output."""
        plain = ("place", "in.docx", "--spot", "b.1", "--picture", "tide.png")
        self.assertEqual(self.run_cli(*plain, "--out", "out.docx")[0], 0)
        first = (self.folder / "out.docx").read_bytes()
        status, _, said = self.run_cli(*plain, "--width", "12,5mm", "--out", "out.docx")
        self.assertEqual((status, (self.folder / "out.docx").read_bytes()), (2, first))
        self.assertIn("--force", said)
        status, out, _ = self.run_cli(*plain, "--width", "12,5mm", "--out", "out.docx", "--force", "--json")
        self.assertEqual((status, json.loads(out)["width_emu"]), (0, 450_000))
        status, _, said = self.run_cli(*plain, "--out", "nowhere/out.docx")
        self.assertEqual(status, 2)
        self.assertIn("“nowhere” is not there", said)
        self.assertEqual(self.run_cli("pictures", "in.docx", "--out", "no/where")[0], 2)
        self.assertEqual(self.run_cli(*plain, "--out", ".")[0], 2)
        self.assertEqual(self.run_cli(*plain, "--out", "-", "--json")[0], 2)
        command = [sys.executable, "-m", "tijera", *plain, "--out", "-"]
        piped = subprocess.run(command, cwd=self.folder, capture_output=True, check=True)
        self.assertEqual(piped.stdout, first)
        self.assertIn(b"-: ", piped.stderr)
        self.assertFalse((self.folder / "-").exists())

    def test_a_port_that_is_none_is_refused_in_words(self) -> None:
        """Whatever is started with it."""
        for port in ("99999", "0", "-1", "many"):
            status, _, said = self.run_cli("serve", "--port", port)
            self.assertEqual(status, 2)
            self.assertIn("a number from 1 to 65535", said)

    def test_a_seal_that_will_not_hold_is_told(self) -> None:
        """The copy is written all the same: only the mail server's own seal is lost."""
        (self.folder / "sealed.eml").write_bytes(b"DKIM-Signature: v=1; b=x\r\n" + make_notice())
        status, _, said = self.run_cli(
            "place", "sealed.eml", "--spot", "h.3", "--picture", "tide.png", "--out", "o.eml"
        )
        self.assertEqual(status, 0)
        self.assertIn("DKIM", said)

    def test_the_written_copy_opens_again(self) -> None:
        """With one more picture than before."""
        self.place()
        self.assertEqual(len(open_docx((self.folder / "out.docx").read_bytes()).outline.body.blocks), 3)
