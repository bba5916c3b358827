"""Use cases: taking, trimming, placing, weighing, fitting, handing over."""

import contextlib
import io
import shutil
import tempfile
import unittest
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import ClassVar

import numpy as np
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.docx import Docx, paragraph, section
from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.budget.search import Progress
from tijera.core.errors import (
    AreaOutside,
    ChangedMeanwhile,
    FormatUnknown,
    InputEmpty,
    LimitNotMet,
    NotFound,
    SpotUnknown,
    WidthTooLarge,
)
from tijera.core.fit import WidthRule
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import decode
from tijera.core.naming import file_stem
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.units import Length
from tijera.demo.example import fill
from tijera.demo.handbook import make_handbook
from tijera.desk.desk import PracticeDesk
from tijera.records import FrameRecord
from tijera.store.store import Store
from tijera.usecases import destinations, placing, rack, saving, standings, taking, weighing
from tijera.usecases.fitting import Fitted, make_it_fit
from tijera.usecases.jobs import Jobs
from tijera.usecases.workshop import Workshop

_PAPER = Docx(paragraph("Before a vessel is called in") + paragraph("the watch reads the depth") + section()).build()


class Taking(BenchCase):
    """From a source, or from elsewhere."""

    def test_a_clipping_is_named_by_its_window_with_a_counter(self) -> None:
        """Without being asked."""
        self.assertEqual(
            [self.take().name for _ in range(2)],
            ["Tide board, outer quay 2026-03-12 12.00", "Tide board, outer quay 2026-03-12 12.00 2"],
        )

    def test_its_pixels_are_those_of_the_frozen_screen(self) -> None:
        """Exactly, and only those of the area."""
        record = self.take(Rect(200, 300, 321, 123))
        picture = self.workshop.pictures.finished(record)
        frame = self.workshop.frame_pixels(self.workshop.store.find(FrameRecord, record.frame))
        self.assertTrue(np.array_equal(picture.pixels, frame.pixels[300:423, 200:521]))

    def test_an_area_that_is_not_on_the_screen_is_refused(self) -> None:
        """And nothing is hung up."""
        with self.assertRaises(AreaOutside):
            self.take(Rect(4_400, 10, 100, 50))
        self.assertEqual(self.workshop.store.clippings(), [])

    def test_a_picture_from_elsewhere_takes_its_scale_from_its_density(self) -> None:
        """192 ppi is a screen of scale factor 2; its file is kept as it came."""
        data = encoded(text_like(90, 40), "PNG", dpi=(192, 192))
        record = taking.bring_in(self.workshop, data, "C:\\desk\\Berth plan.png")
        frame = self.workshop.store.find(FrameRecord, record.frame)
        self.assertEqual((record.name, frame.scale_factor), ("Berth plan", 2.0))
        self.assertEqual(self.workshop.store.blobs.get(frame.original or ""), data)
        with self.assertRaises(InputEmpty):
            taking.bring_in(self.workshop, b"", "nothing.png")


class Rack(BenchCase):
    """Trimming and saving."""

    def test_a_crop_hides_and_undo_brings_back(self) -> None:
        """The frame is kept; a restart does not matter."""
        record = self.take()
        cropped = rack.crop(self.workshop, record.id, Rect(10, 20, 300, 200))
        self.assertEqual(self.workshop.pictures.finished(cropped).size, Size(300, 200))
        again = self.open_workshop()
        again.store.undo()
        self.assertEqual(again.store.clippings()[0].crop, record.crop)

    def test_a_saved_file_holds_what_is_visible_with_its_density(self) -> None:
        """PNG exactly, JPEG closely; another format is refused."""
        record = rack.crop(self.workshop, self.take().id, Rect(10, 20, 300, 200))
        record = rack.rename(self.workshop, record.id, "Low water")
        visible = self.workshop.pictures.finished(record)
        png, jpeg = (saving.save(self.workshop, record.id, each) for each in ("png", "jpeg"))
        self.assertEqual(
            (png.name, jpeg.name),
            ("Low water.png", "Low water.jpg"),
        )
        self.assertTrue(np.array_equal(decode(png.data).pixels, visible.pixels))
        self.assertLess(float(np.abs(decode(jpeg.data).pixels.astype(int) - visible.pixels).mean()), 2)
        for saved in (png, jpeg):
            self.assertAlmostEqual(Image.open(io.BytesIO(saved.data)).info["dpi"][0], 144, delta=0.1)
        with self.assertRaises(FormatUnknown):
            saving.save(self.workshop, record.id, "exe")
        self.assertEqual(saving.remembered(self.workshop), saving.SaveWish())

    def test_a_file_is_saved_as_its_name_says_and_the_wish_is_remembered(self) -> None:
        """The ending decides; size, density and limit are proposed again, and are in the file."""
        record = rack.rename(self.workshop, self.take().id, "Low water")
        wish = saving.SaveWish(share=0.5, density_ppi=200.0, limit_bytes=30_000)
        cases = {
            "Tide.JPG": ("Tide.jpg", "JPEG"),
            "Tide.webp": ("Tide.webp", "WEBP"),
            "v2.1": ("v2.1.png", "PNG"),
            None: ("Low water.png", "PNG"),
            "a/b:c.tiff": ("a-b-c.tiff", "TIFF"),
        }
        for name, (called, kind) in cases.items():
            free = saving.SaveWish(0.5, 200.0) if kind == "TIFF" else wish
            saved = saving.save(self.workshop, record.id, "png", free, name)
            with self.subTest(name), Image.open(io.BytesIO(saved.data)) as image:
                self.assertEqual((saved.name, image.format, image.size), (called, kind, (450, 210)))
                self.assertEqual("dpi" in image.info and round(float(image.info["dpi"][0])), kind != "WEBP" and 200)
        saving.save(self.workshop, record.id, "png", wish)
        proposal = saving.propose(self.workshop, record.id)
        self.assertEqual((proposal.wish, proposal.size, proposal.name), (wish, Size(450, 210), "Low water"))
        self.assertEqual(
            saving.note_saved(self.workshop, saving.save(self.workshop, record.id, "png")).what, "clipping"
        )
        with self.assertRaises(FormatUnknown):
            saving.save(self.workshop, record.id, "gif")

    def test_removing_takes_it_out_of_its_places_and_undo_puts_all_back(self) -> None:
        """One change."""
        record, paper = self.take(), self.open(_PAPER)
        placing.place(self.workshop, paper.id, record.id, "b.1")
        rack.remove(self.workshop, [record.id])
        self.assertEqual((self.workshop.store.clippings(), self.workshop.store.placements()), ([], []))
        self.workshop.store.undo()
        self.assertEqual((len(self.workshop.store.clippings()), len(self.workshop.store.placements())), (1, 1))

    def test_names_are_made_fit_for_files(self) -> None:
        """A window's title may hold anything."""
        self.assertEqual(file_stem('Roster: week 11/12 "final"?'), "Roster- week 11-12 -final-")


class Placing(BenchCase):
    """In a document."""

    def setUp(self) -> None:
        """One clipping, one document."""
        super().setUp()
        self.clipping, self.paper = self.take(), self.open(_PAPER)

    def test_it_takes_the_width_of_its_place_and_follows_a_crop(self) -> None:
        """900 px at scale 1.5 are 158.75 mm, the column has 160.02; cropped it is narrower."""
        placed = placing.place(self.workshop, self.paper.id, self.clipping.id, "b.1")
        self.assertAlmostEqual(standings.standing(self.workshop, placed).measures.width.mm, 158.75, places=3)
        rack.crop(self.workshop, self.clipping.id, Rect(0, 0, 300, 200))
        self.assertAlmostEqual(standings.standing(self.workshop, placed).measures.width.mm, 52.917, places=3)

    def test_what_is_written_is_what_was_promised(self) -> None:
        """Size, pixels, alternative text; the copy's weight is its length; the original stays."""
        placed = placing.place(self.workshop, self.paper.id, self.clipping.id, "b.1")
        placing.adjust(self.workshop, placed.id, width=Length.parse("60mm"), description=" The tide of 12 March ")
        copy = placing.hand_over(self.workshop, self.paper)
        data = self.workshop.store.blobs.get(copy.blob)
        weight = weighing.weigh(self.workshop, self.paper)
        self.assertEqual(
            (weight.file_bytes, copy.bytes, copy.name), (len(data), len(data), "Rules with clippings.docx")
        )
        own = weight.pictures[0]
        self.assertEqual((own.label, own.report.shown[0][0].emu), (self.clipping.name, 2_160_000))
        self.assertEqual(own.report.description, "The tide of 12 March")
        self.assertEqual(weight.rest_bytes, len(data) - own.report.record_bytes)
        self.assertEqual(self.workshop.store.blobs.get(self.paper.blob), _PAPER)

    def test_a_placement_moves_in_one_step(self) -> None:
        """It stays the same placement; a typed width goes along; one undo brings it back."""
        placed = placing.place(self.workshop, self.paper.id, self.clipping.id, "b.1")
        typed = placing.adjust(self.workshop, placed.id, width=Length.parse("60mm"))
        moved = placing.adjust(self.workshop, placed.id, spot_id="b.2")
        self.assertEqual((moved.id, moved.spot, moved.width_emu), (placed.id, "b.2", 2_160_000))
        with self.assertRaises(SpotUnknown):
            placing.adjust(self.workshop, placed.id, spot_id="b.77")
        self.assertEqual(self.workshop.store.undo().label, f"Move {self.clipping.name}")
        self.assertEqual(self.workshop.store.placements(), [typed])

    def test_refusals_change_nothing(self) -> None:
        """No such place, no such clipping, wider than the place."""
        with self.assertRaises(SpotUnknown):
            placing.place(self.workshop, self.paper.id, self.clipping.id, "b.77")
        with self.assertRaises(NotFound):
            placing.place(self.workshop, self.paper.id, "nobody", "b.1")
        placed = placing.place(self.workshop, self.paper.id, self.clipping.id, "b.1")
        with self.assertRaises(WidthTooLarge):
            placing.adjust(self.workshop, placed.id, width=Length.parse("200mm"))
        self.assertEqual(self.workshop.store.placements(), [placed])

    def test_filling_says_that_it_enlarges(self) -> None:
        """It is never done without being asked."""
        small = rack.crop(self.workshop, self.clipping.id, Rect(0, 0, 200, 90))
        placed = placing.place(self.workshop, self.paper.id, small.id, "b.2")
        self.assertFalse(standings.standing(self.workshop, placed).measures.enlarged)
        filled = placing.adjust(self.workshop, placed.id, width=WidthRule.FILL)
        self.assertTrue(standings.standing(self.workshop, filled).measures.enlarged)

    def test_a_jpeg_that_is_not_cut_goes_in_with_its_own_pixels_and_no_metadata(self) -> None:
        """A cut one is encoded once more; both hide what is hidden."""
        exif = Image.Exif()
        exif[0x010F] = "CameraOfNobody"
        source = encoded(photograph_like(400, 260), "JPEG", quality=85, exif=exif)
        photo = taking.bring_in(self.workshop, source, "quay.jpg")
        whole = self.workshop.pictures.first_rendition(photo)
        self.assertTrue(np.array_equal(decode(whole.data).pixels, decode(source).pixels))
        self.assertNotIn(b"CameraOfNobody", whole.data)
        cut = self.workshop.pictures.first_rendition(rack.crop(self.workshop, photo.id, Rect(40, 30, 200, 110)))
        self.assertEqual((cut.extension, decode(cut.data).size), ("jpeg", Size(200, 110)))


class Fitting(BenchCase):
    """Make it fit."""

    example: ClassVar[str]

    @classmethod
    def setUpClass(cls) -> None:
        """The example is put together once; each test works in a copy."""
        super().setUpClass()
        cls.example = cls.enterClassContext(tempfile.TemporaryDirectory())
        with contextlib.closing(Store(Path(cls.example), lambda: "2026-03-12T12:00:00")) as store:
            fill(Workshop(store, {"desk": PracticeDesk()}, lambda: "2026-03-12T12:00:00"))

    def open_workshop(self) -> Workshop:
        """In a copy of the example."""
        shutil.copytree(self.example, self.folder, dirs_exist_ok=True)
        return super().open_workshop()

    def setUp(self) -> None:
        """The handbook under 2 MB, with the harbour chart and the roster in it twice: too heavy."""
        super().setUp()
        current = destinations.current(self.workshop)
        assert current is not None
        self.handbook = current
        self.clippings = {clipping.name: clipping for clipping in self.workshop.store.clippings()}
        spots = [spot.id for spot in destinations.document_of(self.workshop, current).spots() if spot.section == 2]
        for spot, name in zip(spots[3:], ("Harbour chart", "Crew roster, week 11", "Harbour chart"), strict=False):
            placing.place(self.workshop, current.id, self.clippings[name].id, spot)

    def _fit(self, limit: int) -> Fitted:
        steps = list(make_it_fit(self.workshop, self.handbook, limit))
        self.assertTrue(all(isinstance(step, Progress) for step in steps[:-1]))
        assert isinstance(steps[-1], Fitted)
        return steps[-1]

    def test_the_written_file_is_under_the_limit_and_what_was_given_up_is_said(self) -> None:
        """The chart pays, the roster keeps every pixel; one undo takes it all back."""
        heavy = weighing.weigh(self.workshop, self.handbook).file_bytes
        self.assertGreater(heavy, 2_000_000)
        fitted = self._fit(2_000_000)
        copy = self.workshop.store.blobs.get(placing.hand_over(self.workshop, self.handbook).blob)
        self.assertEqual(len(copy), fitted.file_bytes)
        self.assertLessEqual(len(copy), 2_000_000)
        # No more is given up than the limit asks for.
        self.assertGreater(len(copy), 1_600_000)
        self.assertTrue(any(line.startswith("Harbour chart: ") for line in fitted.given_up))
        roster = next(
            each for each in weighing.weigh(self.workshop, self.handbook).pictures if each.label.startswith("Crew")
        )
        self.assertEqual(roster.report.pixels, self.clippings["Crew roster, week 11"].crop.size)
        self.workshop.store.undo()
        self.assertEqual(weighing.weigh(self.workshop, self.handbook).file_bytes, heavy)

    def test_sharpness_is_that_of_what_is_written(self) -> None:
        """Where pixels were given up, the placement says so."""
        self._fit(1_330_000)
        chart = next(each for each in standings.standings(self.workshop, self.handbook) if each.clipping.name == "Harbour chart")  # fmt: skip
        written = decode(placing.rendition_bytes(self.workshop, chart)[0]).size
        self.assertLess(written.width, chart.clipping.crop_width)
        self.assertAlmostEqual(chart.ppi, written.width / chart.measures.width.inches)

    def test_what_was_changed_while_it_searched_is_not_overwritten(self) -> None:
        """A picture that was taken out stays out; the search says that it was overtaken."""
        search = make_it_fit(self.workshop, self.handbook, 2_000_000)
        next(search)
        placing.take_out(self.workshop, self.workshop.store.placements()[0].id)
        before = self.workshop.store.placements()
        with self.assertRaises(ChangedMeanwhile):
            list(search)
        self.assertEqual(self.workshop.store.placements(), before)

    def test_a_crop_makes_a_rendition_void(self) -> None:
        """It showed another part."""
        self._fit(2_000_000)
        rack.crop(self.workshop, self.clippings["Harbour chart"].id, Rect(0, 0, 200, 150))
        charts = [
            each for each in standings.standings(self.workshop, self.handbook) if each.clipping.name == "Harbour chart"
        ]
        self.assertFalse(any(each.has_rendition for each in charts))
        self.assertEqual(decode(placing.rendition_bytes(self.workshop, charts[0])[0]).size, Size(200, 150))

    def test_what_can_not_be_met_names_what_stands_in_the_way_and_changes_nothing(self) -> None:
        """The handbook's own pictures are not touched, and weigh more than the limit."""
        for placed in self.workshop.store.placements()[1:]:
            placing.take_out(self.workshop, placed.id)
        before = self.workshop.store.placements()
        with self.assertRaises(LimitNotMet) as caught:
            list(make_it_fit(self.workshop, self.handbook, 900_000))
        values = caught.exception.values
        self.assertGreater(int(str(values["over_bytes"])), 300_000)
        self.assertIn("Quillhaven harbour from above", str(values["in_the_way"]))
        self.assertEqual(self.workshop.store.placements(), before)


class LongWork(unittest.TestCase):
    """Jobs."""

    def test_a_job_stops_before_its_next_step(self) -> None:
        """And says that it is over; one that is refused keeps its words."""
        jobs = Jobs(ThreadPoolExecutor(1))
        made = []

        def work() -> Iterator[Progress]:
            for number in range(1_000_000):
                made.append(number)
                yield Progress(number, 1_000_000, "counting")

        job = jobs.start(work)
        while not job.events:
            pass
        jobs.stop(job.id)
        jobs.close()
        self.assertTrue(job.is_over)
        self.assertLess(len(made), 1_000_000)
        with self.assertRaises(NotFound):
            jobs.find("nobody")


class Demo(BenchCase):
    """The demo data."""

    def test_the_handbook_is_what_the_example_promises(self) -> None:
        """Sections in one, two equal and two unequal columns, a merged table, a header, three pictures, 14 pages of text."""
        data = make_handbook()
        document = open_docx(data)
        columns = [[round(width.mm, 1) for width in section.columns] for section in document.outline.sections]
        self.assertEqual(columns, [[165.0], [165.0], [78.5, 78.5], [104.1, 52.9], [78.5, 78.5], [165.0]])
        self.assertEqual(data, make_handbook())
        words = sum(len(spot.after_text.split()) for spot in document.spots())
        self.assertGreater(words, 14 * 350)

    def test_a_second_start_adds_nothing(self) -> None:
        """What the user did with the demo stays."""
        fill(self.workshop)
        self.workshop.store.find(FrameRecord, self.workshop.store.clippings()[0].frame)
        before = self.workshop.store.clippings()
        fill(self.workshop)
        self.assertEqual(self.workshop.store.clippings(), before)
        self.assertIsNone(self.workshop.store.undoable())


class Faults(unittest.TestCase):
    """Long work that goes wrong."""

    def test_a_refusal_is_kept_with_its_words_and_a_fault_is_marked(self) -> None:
        """The one is told to the user, the other to the log."""

        def refused() -> Iterator[object]:
            yield Progress(0, 2, "beginning")
            raise NotFound(what="clipping", key="c1")

        def broken() -> Iterator[object]:
            yield Progress(0, 2, "beginning")
            raise ZeroDivisionError

        pool = ThreadPoolExecutor(1)
        jobs = Jobs(pool)
        with self.assertLogs("tijera.usecases.jobs", "ERROR") as noted:
            told, marked = jobs.start(refused), jobs.start(broken)
            pool.shutdown()
        self.assertIn("ZeroDivisionError", "".join(noted.output))
        self.assertEqual((str(told.error), told.failed, told.is_over), ("There is no clipping “c1”.", False, True))
        self.assertEqual((marked.error, marked.failed, marked.is_over), (None, True, True))

    def test_old_jobs_are_forgotten(self) -> None:
        """Not without end."""
        jobs = Jobs(ThreadPoolExecutor(1))
        first = jobs.start(lambda: iter(()))
        for _ in range(60):
            jobs.start(lambda: iter(()))
        jobs.close()
        with self.assertRaises(NotFound):
            jobs.find(first.id)
