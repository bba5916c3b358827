"""From a clipping to the picture that leaves: turns, room, edges, scale, tones, parts laid on."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support.sheets import Given, clipping_of, mark, screen
from tijera.core.clippings.composing import compose
from tijera.core.clippings.crops import round_marks, without_border
from tijera.core.clippings.measures import natural_scale, placed_as
from tijera.core.clippings.sheet import Edge, Margins, Sheet, Tones, Turn
from tijera.core.clippings.turning import back, forward, turn_sheet, turned_size, upright_inside
from tijera.core.errors import CropOutside, OptionUnreadable, RoomTooLarge, TooManyMarks
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.printfriendly import print_friendly
from tijera.core.marks.ground import Ground
from tijera.core.marks.kinds import draw
from tijera.core.units import Length

AREA = Size(120, 80)
turns = st.builds(Turn, st.booleans(), st.integers(0, 3), st.sampled_from([0.0, 3.5, -20.0]))


def composed(sheet: Sheet, crop: Rect | None = None, px_per_pt: float = 4 / 3) -> Picture:
    """The finished picture of the test screen."""
    return compose(clipping_of(screen(), crop, sheet), Given(Picture(screen())), px_per_pt)


class Turning(unittest.TestCase):
    """Where pixels come to lie."""

    @given(turns, st.floats(0, 120), st.floats(0, 80))
    def test_there_and_back(self, turn: Turn, x: float, y: float) -> None:
        (there,) = forward(turn, AREA, [(x, y)])
        ((bx, by),) = back(turn, AREA, [there])
        self.assertAlmostEqual(bx, x, 6)
        self.assertAlmostEqual(by, y, 6)
        size = turned_size(turn, AREA)
        self.assertTrue(-1e-6 <= there[0] <= size.width + 1e-6 and -1e-6 <= there[1] <= size.height + 1e-6)

    def test_only_a_whole_turn_is_none(self) -> None:
        """One, two and three quarters, a mirror, half a degree: each is one."""
        turned = [Turn(quarters=each) for each in (1, 2, 3, 5)] + [
            Turn(flipped=True),
            Turn(degrees=0.5),
            Turn(degrees=-0.5),
        ]
        self.assertFalse(any(each.is_none for each in turned))
        self.assertTrue(all(Turn(quarters=each).is_none for each in (0, 4, -4)))

    def test_quarters_and_mirrors_are_exact(self) -> None:
        """Against numpy's own rot90 and flip."""
        for quarters in range(4):
            for flipped in (False, True):
                seen = composed(Sheet(turn=Turn(flipped, quarters))).pixels if quarters or flipped else screen()
                source = screen()[:, ::-1] if flipped else screen()
                self.assertTrue(np.array_equal(seen, np.rot90(source, -quarters)), (quarters, flipped))

    @given(turns, st.integers(0, 3))
    def test_marks_and_crop_go_along_and_come_back(self, turn: Turn, quarters: int) -> None:
        """A quarter turn four times over changes nothing."""
        sheet = Sheet(
            (mark("arrow", (10, 20), (50, 30)), mark("black-out", (4, 5), (20, 15), id_="b")),
            Turn(turn.flipped, turn.quarters),
            room=Margins(1, 2, 3, 4),
        )
        crop = Rect(8, 6, 40, 30)
        after, moved = sheet, crop
        for step in range(1, 5):
            to = Turn(turn.flipped, (turn.quarters + step * (quarters or 1)) % 4)
            after, moved = turn_sheet(after, moved, AREA, to)
        self.assertEqual((after.marks, after.room, moved), (sheet.marks, sheet.room, crop))

    def test_what_is_opaque_stays_so_through_an_angle(self) -> None:
        """No plane of alpha where nothing is see-through: it would make every output of it heavier."""
        area = clipping_of(screen(), sheet=Sheet())
        sheet, crop = turn_sheet(area.sheet, area.crop, AREA, Turn(degrees=3.0))
        self.assertFalse(composed(sheet, crop).has_alpha)

    def test_straightening_shows_no_empty_corner(self) -> None:
        """The crop that straightening gives is wholly opaque; its whole has see-through corners."""
        turn = Turn(degrees=6)
        crop = upright_inside(turn, AREA)
        self.assertFalse(composed(Sheet(turn=turn), crop).has_alpha)
        whole = composed(Sheet(turn=turn), Rect.whole(turned_size(turn, AREA)))
        self.assertEqual(int(whole.pixels[0, 0, 3]), 0)
        self.assertGreater(crop.size.pixels, 0.5 * AREA.pixels)

    @given(turns, turns, st.data())
    def test_turning_brings_nothing_back_that_was_cut_away(self, before: Turn, to: Turn, data: st.DataObject) -> None:
        """Every corner of the new crop lies within the old one, whatever the angles."""
        base = turned_size(before, AREA)
        x, y = data.draw(st.integers(1, base.width - 21)), data.draw(st.integers(1, base.height - 21))
        width, height = data.draw(st.integers(8, base.width - x - 2)), data.draw(st.integers(8, base.height - y - 2))
        crop = Rect(x, y, width, height)
        if crop == upright_inside(before, AREA):
            return
        try:
            _, after = turn_sheet(Sheet(turn=before), crop, AREA, to)
        except CropOutside:
            (middle,) = forward(to, AREA, back(before, AREA, [(x + width / 2, y + height / 2)]))
            size = turned_size(to, AREA)
            in_sight = 6 < middle[0] < size.width - 6 and 6 < middle[1] < size.height - 6
            self.assertFalse(in_sight, "refused though there is something to show")
            return
        corners = [(after.x, after.y), (after.right, after.y), (after.right, after.bottom), (after.x, after.bottom)]
        for cx, cy in forward(before, AREA, back(to, AREA, corners)):
            self.assertTrue(crop.x - 1e-4 <= cx <= crop.right + 1e-4, (cx, crop, after))
            self.assertTrue(crop.y - 1e-4 <= cy <= crop.bottom + 1e-4, (cy, crop, after))
        if to.degrees == before.degrees and to.flipped == before.flipped and min(crop.width, crop.height) > 20:
            self.assertGreaterEqual(after.size.pixels, 0.8 * crop.size.pixels)

    def test_a_black_out_stays_on_what_it_hid_through_an_angle(self) -> None:
        """Turned by an angle and back it covers the same pixels."""
        sheet = Sheet((mark("black-out", (30, 20), (60, 40)),))
        turned, _ = turn_sheet(sheet, Rect.whole(AREA), AREA, Turn(degrees=12))
        again, _ = turn_sheet(turned, Rect.whole(turned_size(turned.turn, AREA)), AREA, Turn())
        for (x, y), (ax, ay) in zip(again.black_outs[0], sheet.black_outs[0], strict=True):
            self.assertAlmostEqual(x, ax, 2)
            self.assertAlmostEqual(y, ay, 2)


class Composing(unittest.TestCase):
    """What becomes of a sheet."""

    def test_a_plain_one_is_the_screen(self) -> None:
        self.assertTrue(np.array_equal(composed(Sheet()).pixels, screen()))

    def test_outer_size_counts_room_edge_and_shadow(self) -> None:
        picture = composed(Sheet(room=Margins(10, 0, 5, 20), edge=Edge(3), ground="white"))
        # 3 pt at 4/3 pixels per point are 4 pixels on every side.
        self.assertEqual(picture.size, Size(120 + 15 + 8, 80 + 20 + 8))
        self.assertEqual(picture.pixels[0, 0].tolist(), [32, 40, 42])
        self.assertEqual(picture.pixels[90, 20].tolist(), [255, 255, 255])
        shadowed = composed(Sheet(edge=Edge(shadow_pt=6)))
        self.assertTrue(shadowed.has_alpha)
        self.assertGreater(shadowed.size.width, 120)
        self.assertTrue(np.array_equal(shadowed.pixels[4:84, 4:124, :3], screen()))

    def test_what_is_see_through_stays_so_within_margins(self) -> None:
        """By its own alpha, whatever its colours are; the margins show nothing."""
        chance = np.random.default_rng(5)
        shown = np.dstack((screen(), chance.integers(1, 255, (80, 120), dtype=np.uint8)))
        clipping = clipping_of(shown, sheet=Sheet(room=Margins(10, 4, 5, 20)))
        out = compose(clipping, Given(Picture(shown)), 4 / 3).pixels
        left, top = clipping.sheet.room.left, clipping.sheet.room.top
        self.assertTrue(np.array_equal(out[top : top + 80, left : left + 120], shown))
        out[top : top + 80, left : left + 120] = 0
        self.assertFalse(out.any())

    def test_a_shadow_is_a_shade_and_no_second_edge(self) -> None:
        """Beside the picture it covers less than half of what lies beneath, and is gone where it ends."""
        pixels = composed(Sheet(edge=Edge(shadow_pt=6))).pixels
        alpha = pixels[:, :, 3].copy()
        alpha[4:84, 4:124] = 0
        self.assertTrue(40 < int(alpha.max()) <= 115, alpha.max())
        self.assertEqual((int(alpha[0].max()), int(alpha[:, 0].max())), (0, 0))

    def test_an_edge_keeps_its_points_in_a_place(self) -> None:
        """1.5 pt are 1.5 pt, whatever the picture is shrunk to, and the place's width counts the edge."""
        clipping = clipping_of(np.zeros((800, 1200, 3), np.uint8), sheet=Sheet(edge=Edge(1.5)))
        place = Length.from_mm(80)
        found = placed_as(clipping, place, Length.from_mm(200))
        self.assertEqual(found.measures.width, place)
        edge_pt = (found.outer.width - 1200) / 2 / found.px_per_pt
        self.assertAlmostEqual(edge_pt, 1.5, delta=0.1)

    def test_natural_size_is_96_pixels_an_inch_by_the_scale_factor(self) -> None:
        self.assertAlmostEqual(natural_scale(clipping_of(screen(), scale_factor=1.5)), 2.0)

    def test_what_is_laid_on_shows_where_it_lies(self) -> None:
        part = Picture(np.full((20, 30, 3), 200, np.uint8))
        sheet = Sheet((mark("inset", (40, 30), (70, 50), clipping="p"),))
        picture = compose(clipping_of(screen(), sheet=sheet), Given(Picture(screen()), parts={"p": part}), 1.0)
        self.assertTrue((picture.pixels[30:50, 40:70] == 200).all())
        self.assertTrue(np.array_equal(picture.pixels[:30], screen()[:30]))

    def test_what_lies_on_it_under_a_black_out_influences_no_byte(self) -> None:
        """Not even where a pixel is half covered, at any scale."""
        sheet = {scale: Sheet((mark("inset", (40, 30), (70, 50), clipping="p"), mark("black-out", (39, 29), (61, 43), id_="b")), scale=scale) for scale in (1.0, 0.7, 0.37)}  # fmt: skip
        for scale, each in sheet.items():
            seen = []
            for value in (200, 20):
                part = np.full((20, 30, 3), 120, np.uint8)
                part[:13, :21] = value
                given_ = Given(Picture(screen()), parts={"p": Picture(part)})
                seen.append(compose(clipping_of(screen(), sheet=each), given_, 1.0).pixels)
            hidden = seen[0][int(30 * scale) : int(42 * scale), int(40 * scale) : int(60 * scale)]
            with self.subTest(scale):
                self.assertFalse(hidden.any())

    def test_each_tone_does_something_by_itself(self) -> None:
        """One alone is enough."""
        for tones in (Tones(brightness=20), Tones(contrast=30), Tones(paler=40), Tones(grey=True)):
            with self.subTest(tones):
                self.assertFalse(np.array_equal(composed(Sheet(tones=tones)).pixels, screen()))

    def test_a_tint_on_white_is_its_colour(self) -> None:
        """Multiplied by one (CSS Compositing 1, 9.1.2), to the last step: a paler white would be no white."""
        white = np.full((40, 60, 3), 255, np.uint8)
        sheet = Sheet((mark("tint", (5, 20), (55, 20), weight_pt=20.0),))
        seen = compose(clipping_of(white, sheet=sheet), Given(Picture(white)), 1.0).pixels
        drawn = draw(mark("tint", (5, 20), (55, 20), weight_pt=20.0), 1.0, Ground(None)).svg
        self.assertIn("#" + bytes(seen[20, 30].tolist()).hex(), drawn)

    def test_a_tint_on_black_is_its_colour(self) -> None:
        """Screened with zero (CSS Compositing 1, 9.1.3): where most of the ground is dark, black takes the colour itself."""
        black = np.zeros((40, 60, 3), np.uint8)
        tint = mark("tint", (5, 20), (55, 20), weight_pt=20.0)
        seen = compose(clipping_of(black, sheet=Sheet((tint,))), Given(Picture(black)), 1.0).pixels
        drawn = draw(tint, 1.0, Ground(Picture(black))).svg
        self.assertIn("#" + bytes(seen[20, 30].tolist()).hex(), drawn)
        self.assertGreater(int(seen[20, 30].max()), 40)
        # On a half-tone, screening by the formula: one + other - one * other.
        half = np.full((40, 60, 3), 60, np.uint8)
        mixed = compose(clipping_of(half, sheet=Sheet((tint,))), Given(Picture(half)), 1.0).pixels[20, 30] / 255
        colour, ground = seen[20, 30] / 255, 60 / 255
        self.assertTrue(np.abs(mixed - (colour + ground - colour * ground)).max() < 0.005, mixed)

    def test_an_edge_is_as_wide_on_all_four_sides(self) -> None:
        """Each outer row and column is the line, right through."""
        pixels = composed(Sheet(edge=Edge(3.0)), px_per_pt=1.0).pixels[:, :, :3]
        for side in (pixels[:3], pixels[-3:], pixels[:, :3], pixels[:, -3:]):
            self.assertLess(int(side.max()), 60)
        self.assertTrue(np.array_equal(pixels[3:-3, 3:-3], screen()))

    def test_a_broken_edge_goes_all_round(self) -> None:
        """Dashes on each side, evenly about as much ink on facing ones, none in the picture."""
        for dash in ("dashed", "dotted"):
            pixels = composed(Sheet(edge=Edge(4.0, dash=dash)), px_per_pt=1.0).pixels
            ink = (pixels[:, :, :3].max(axis=2) < 60) & (pixels[:, :, 3] > 200 if pixels.shape[2] == 4 else True)
            sides = [int(side.sum()) for side in (ink[:4], ink[-4:], ink[:, :4], ink[:, -4:])]
            with self.subTest(dash, sides=sides):
                self.assertGreater(min(sides), 60)
                self.assertLess(abs(sides[0] - sides[1]), 0.25 * sides[0])
                self.assertLess(abs(sides[2] - sides[3]), 0.25 * sides[2])
                self.assertTrue(np.array_equal(pixels[6:-6, 6:-6, :3], screen()[2:-2, 2:-2]))

    def test_two_tints_that_cross_are_darker_where_they_do(self) -> None:
        """Each multiplies what lies beneath it (CSS Compositing 1, 9.1.2), the other tint too."""
        white = np.full((60, 60, 3), 255, np.uint8)
        across, down = (
            mark("tint", (5, 30), (55, 30), weight_pt=10.0),
            mark("tint", (30, 5), (30, 55), weight_pt=10.0, id_="b"),
        )
        seen = compose(clipping_of(white, sheet=Sheet((across, down))), Given(Picture(white)), 1.0).pixels / 255
        self.assertTrue(np.abs(seen[30, 30] - seen[30, 10] * seen[10, 30]).max() < 0.005, seen[30, 30])
        self.assertLess(float(seen[30, 30].sum()), float(seen[30, 10].sum()))

    def test_a_tint_leaves_dark_letters_readable(self) -> None:
        """Under it the letters keep their darkness, the ground takes the colour."""
        picture = composed(Sheet((mark("tint", (5, 40), (100, 40), weight_pt=15.0),)))
        letters, ground = picture.pixels[33, 10].astype(int), picture.pixels[40, 118].astype(int)
        self.assertTrue((letters <= screen()[33, 10] + 1).all())
        self.assertLess(int(picture.pixels[45, 60, 2]), 200)
        self.assertEqual(ground.tolist(), screen()[40, 118].tolist())

    def test_a_mark_over_a_black_out_shows_and_one_under_it_does_not(self) -> None:
        out = mark("black-out", (20, 20), (80, 60), id_="b")
        words = mark("ring", (30, 30), (70, 50), colour="paper", shape="rectangle")
        over = composed(Sheet((out, words))).pixels[20:60, 20:80]
        under = composed(Sheet((words, out))).pixels[20:60, 20:80]
        self.assertTrue(over.any())
        self.assertFalse(under.any())

    def test_limits_are_refused_in_words(self) -> None:
        with self.assertRaises(RoomTooLarge):
            composed(Sheet(room=Margins(10_000, 10_000, 10_000, 10_000)))
        for make in (
            lambda: Margins(left=-1),
            lambda: Turn(degrees=50),
            lambda: Tones(contrast=101),
            lambda: Edge(dash="wavy"),
            lambda: Sheet(scale=0),
            lambda: Sheet(ground="mauve"),
        ):
            with self.assertRaises(OptionUnreadable):
                make()
        with self.assertRaises(TooManyMarks):
            Sheet(tuple(mark("pennant", (1, 1), id_=str(n)) for n in range(2_001)))


class Crops(unittest.TestCase):
    """Crops that suggest themselves."""

    def test_the_empty_border_is_found_exactly(self) -> None:
        pixels = np.full((50, 70, 3), 240, np.uint8)
        pixels[7:31, 12:60] = screen()[:24, :48]
        self.assertEqual(without_border(Picture(pixels)), Rect(12, 7, 48, 24))
        self.assertIsNone(without_border(Picture(np.full((9, 9, 3), 1, np.uint8))))
        self.assertIsNone(without_border(Picture(pixels[7:31, 12:60])))

    def test_a_border_is_found_though_one_corner_is_another_colour(self) -> None:
        """Whichever it is; two are no border any more."""
        for corner in ((0, 0), (0, -1), (-1, 0), (-1, -1)):
            pixels = np.full((50, 70, 3), 240, np.uint8)
            pixels[7:31, 12:60] = screen()[:24, :48]
            pixels[corner] = 0
            with self.subTest(corner):
                self.assertIsNotNone(without_border(Picture(pixels)))
                pixels[corner[0], -1 - corner[1]] = 90
                self.assertIsNone(without_border(Picture(pixels)))

    def test_round_the_marks_stays_on_the_picture(self) -> None:
        self.assertEqual(round_marks([(50, 40, 70, 60)], Size(75, 200)), Rect(38, 28, 37, 45))
        self.assertIsNone(round_marks([], Size(9, 9)))


class PrintFriendly(unittest.TestCase):
    """Dark screens for paper."""

    def test_a_light_screen_stays_as_it_is(self) -> None:
        picture = Picture(screen())
        self.assertIs(print_friendly(picture), picture)

    def test_a_photograph_in_it_is_left_alone(self) -> None:
        """To the pixel, while the ground round it becomes light."""
        pixels = np.full((200, 300, 3), (24, 30, 34), np.uint8)
        photo = np.random.default_rng(3).integers(0, 255, (90, 120, 3), dtype=np.uint8)
        pixels[60:150, 100:220] = photo
        light = print_friendly(Picture(pixels)).pixels
        self.assertTrue(np.array_equal(light[60:150, 100:220], photo))
        self.assertGreater(int(light[10, 10].min()), 200)
        self.assertGreater(int(light[59, 150].min()), 200)
