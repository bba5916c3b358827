"""Kinds of mark: from data to operations, and what is refused."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support.sheets import mark
from tijera.core.errors import MarkEmpty, MarkTooLong, MarkUnknown, OptionUnreadable, TextTooLong
from tijera.core.imaging.picture import Picture
from tijera.core.marks.ground import Ground
from tijera.core.marks.kinds import checked, draw, draw_all, kind_of, kinds, numbers_of
from tijera.core.marks.letters import face
from tijera.core.marks.line import with_length
from tijera.core.marks.mark import Amount, Choice, Mark
from tijera.core.marks.operations import Blend, Letters, Shape
from tijera.core.marks.pennant import label_of
from tijera.core.marks.svg import group, number
from tijera.core.marks.text import set_text

BARE = Ground(None)
ONE_OF_EACH = (
    mark("arrow", (10, 20), (90, 60), line="bent", head="filled"),
    mark("line", (10, 20), (90, 60), angle=True, length=True, dash="dotted"),
    mark("text", (30, 40), text="Low water\nberth Q4"),
    mark("pen", (5, 5), (20, 9), (40, 30)),
    mark("tint", (5, 50), (80, 52)),
    mark("ring", (20, 10), (90, 70), shape="ellipse"),
    mark("callout", (10, 10), (70, 60), text="Read this"),
    mark("pennant", (40, 40)),
    mark("black-out", (12, 13), (44, 29)),
    mark("inset", (0, 0), (40, 30), clipping="abc"),
)


class Kinds(unittest.TestCase):
    """All kinds alike."""

    def test_every_kind_is_drawn_here(self) -> None:
        self.assertEqual({each.kind for each in ONE_OF_EACH}, set(kinds()))

    def test_the_same_mark_gives_the_same_text_within_its_box(self) -> None:
        """And what is drawn lies in the box that is rasterised."""
        for each in ONE_OF_EACH:
            with self.subTest(each.kind):
                one, other = draw(checked(each), 1.5, BARE), draw(checked(each), 1.5, BARE)
                self.assertEqual(group(one.operations, "m"), group(other.operations, "m"))
                for operation in one.operations:
                    left, top, right, bottom = operation.box
                    self.assertLessEqual((one.box[0], one.box[1]), (left, top))
                    self.assertGreaterEqual((one.box[2], one.box[3]), (right, bottom))

    def test_every_point_of_a_path_lies_in_its_bounds(self) -> None:
        """What lies outside would be cut off where the mark is drawn; an arc ends at its last point."""
        turned = [mark("line", (60, 50), end, angle=True) for end in ((95, 20), (20, 15), (30, 90), (100, 80))]
        for each in (*ONE_OF_EACH, *turned):
            shapes = [shape for shape in draw(checked(each), 1.5, BARE).operations if isinstance(shape, Shape)]
            for shape in shapes:
                left, top, right, bottom = shape.bounds
                for command in shape.path:
                    numbers = [float(each) for each in command if not isinstance(each, str)]
                    if numbers:
                        x, y = numbers[-2:]
                        inside = left - 1e-6 <= x <= right + 1e-6 and top - 1e-6 <= y <= bottom + 1e-6
                        self.assertTrue(inside, (each.kind, command, shape.bounds))

    def test_text_has_room_for_its_widest_piece(self) -> None:
        """Also where it is narrower than one sign: then it is as wide as that, with its padding at both sides."""
        for width in (None, 3.0, 40.0, 300.0):
            words = set_text("Wharf\nQ", face("next"), 20, (10, 20), "#203040", width)
            widest = max(each.advance for each in words.lines)
            left, _, right, _ = words.box
            pad = words.lines[0].baseline[0] - left
            self.assertGreater(pad, 0)
            self.assertGreaterEqual(right - left, widest + 2 * pad - 1e-6)
            self.assertGreaterEqual(right - left, width or 0)

    def test_points_are_anchors_and_sizes_are_points(self) -> None:
        """Twice the pixels per point: strokes and type twice as large, anchors where they were."""
        one, two = (draw(mark("arrow", (10, 20), (90, 60)), scale, BARE).operations[0] for scale in (1.0, 2.0))
        assert isinstance(one, Shape)
        assert isinstance(two, Shape)
        self.assertEqual(one.path, two.path)
        self.assertEqual((one.width, two.width), (1.5, 3.0))
        text = [draw(mark("text", (0, 0), text="A", size_pt=9.0), scale, BARE) for scale in (1.0, 2.0)]
        sizes = [each.size for drawn in text for each in drawn.operations if isinstance(each, Letters)]
        self.assertEqual(sizes, [9.0, 18.0])

    def test_only_what_goes_round_is_taken_hold_of_all_round(self) -> None:
        """Between the ends of a line, an arrow, a pen or a tint there is nothing to take hold of."""
        for each in ONE_OF_EACH:
            if each.kind in ("arrow", "line", "pen", "tint"):
                self.assertFalse(draw(checked(each), 1.5, BARE).touch_closed, each.kind)

    def test_a_line_keeps_its_direction_at_another_length(self) -> None:
        """By the theorem of Pythagoras: 3, 4 and 5."""
        self.assertEqual(with_length(((10, 20), (13, 24)), 10.0), ((10, 20), (16.0, 28.0)))
        self.assertEqual(with_length(((0, 0), (30, 40)), 25.0), ((0, 0), (15.0, 20.0)))

    def test_defaults_lie_within_their_own_limits(self) -> None:
        for kind in kinds().values():
            for name, option in kind.declared().items():
                default = kind.defaults()[name]
                if isinstance(option, Amount):
                    self.assertTrue(option.least <= float(default) <= option.most, (kind.id, name))
                if isinstance(option, Choice):
                    self.assertIn(default, [key for key, _ in option.values])

    def test_bad_marks_are_refused_in_words(self) -> None:
        """A mark of no size, with too many points, with endless text, of no kind, with options out of range."""
        cases: list[tuple[Mark, type[Exception]]] = [
            (mark("arrow", (10, 10), (10.4, 10.2)), MarkEmpty),
            (mark("ring", (10, 10), (60, 10.3)), MarkEmpty),
            (mark("arrow", (10, 10)), MarkEmpty),
            (mark("pen"), MarkEmpty),
            (mark("arrow", (math.nan, 1), (50, 50)), MarkEmpty),
            (mark("line", (0, 0), (1e9, 0)), MarkEmpty),
            (Mark("m", "pen", tuple((float(i), 0.0) for i in range(20_001)), {}), MarkTooLong),
            (mark("text", (0, 0), text="x" * 10_000), TextTooLong),
            (mark("speech", (0, 0)), MarkUnknown),
            (mark("arrow", (0, 0), (9, 9), weight_pt=99.0), OptionUnreadable),
            (mark("arrow", (0, 0), (9, 9), weight_pt=True), OptionUnreadable),
            (mark("arrow", (0, 0), (9, 9), colour="mauve"), OptionUnreadable),
            (mark("arrow", (0, 0), (9, 9), size_pt=9.0), OptionUnreadable),
        ]
        for each, error in cases:
            with self.subTest(kind=each.kind, error=error.__name__), self.assertRaises(error):
                checked(each)

    def test_ten_thousand_points_are_taken_and_thinned(self) -> None:
        """A long stroke of a steady hand is drawn with the points that its way needs."""
        points = tuple((i / 10, 40 + 20 * math.sin(i / 700)) for i in range(10_000))
        (shape,) = draw(checked(Mark("m", "pen", points, {})), 1.0, BARE).operations
        assert isinstance(shape, Shape)
        self.assertLess(len(shape.path), 400)

    @given(st.text(max_size=300))
    def test_any_text_becomes_sound_xml(self, text: str) -> None:
        """Control characters, right-to-left signs, angle brackets."""
        drawn = draw(checked(mark("text", (3, 4), text=text)), 1.0, BARE)
        from lxml import etree

        etree.fromstring(f"<svg xmlns='http://www.w3.org/2000/svg'>{group(drawn.operations, 'm')}</svg>")


class Each(unittest.TestCase):
    """What is particular."""

    def test_pennants_count_by_themselves(self) -> None:
        """Each row for itself, in order; one taken away renumbers the rest."""
        marks = [
            mark("pennant", (0, 0), id_="a"),
            mark("ring", (0, 0), (9, 9), id_="r"),
            mark("pennant", (0, 0), id_="b", row="letters"),
            mark("pennant", (0, 0), id_="c"),
        ]
        self.assertEqual(numbers_of(marks), [1, 1, 1, 2])
        self.assertEqual(numbers_of(marks[1:]), [1, 1, 1])
        self.assertEqual([label_of(n, "letters") for n in (1, 26, 27, 52, 703)], ["a", "z", "aa", "az", "aaa"])

    def test_a_tint_multiplies_on_light_and_screens_on_dark(self) -> None:

        for value, blend in ((240, Blend.MULTIPLY), (20, Blend.SCREEN)):
            ground = Ground(Picture(np.full((60, 100, 3), value, np.uint8)))
            (shape,) = draw(mark("tint", (10, 30), (90, 31)), 1.0, ground).operations
            assert isinstance(shape, Shape)
            self.assertIs(shape.blend, blend)

    def test_an_edge_comes_where_contrast_is_missing_and_only_there(self) -> None:

        light, dark = (Ground(Picture(np.full((60, 100, 3), value, np.uint8))) for value in (240, 30))
        ring = mark("ring", (10, 10), (90, 50), colour="ink")
        self.assertEqual([len(draw(ring, 1.0, each).operations) for each in (light, dark)], [1, 2])

    def test_letters_get_an_edge_wherever_the_ground_swallows_them(self) -> None:
        """In their upper half, their lower half, their last sign; not where it is light."""
        text = mark("text", (10, 10), text="Low water at nine", colour="ink", ground="none")

        def letters_on(ground: Ground) -> Letters:
            return next(each for each in draw(text, 1.0, ground).operations if isinstance(each, Letters))

        _, top, _, bottom = (round(each) for each in letters_on(BARE).box)
        for dark in (None, (0, (top + bottom) // 2), ((top + bottom) // 2 + 1, 80)):
            pixels = np.full((80, 260, 3), 240, np.uint8)
            if dark is not None:
                pixels[dark[0] : dark[1]] = 20
            with self.subTest(dark=dark):
                self.assertEqual(letters_on(Ground(Picture(pixels))).edge is not None, dark is not None)

    def test_the_ground_is_looked_at_to_its_very_edges(self) -> None:
        """Its first and last pixels count, beyond them it is white; its corner is the picture's."""
        ground = Ground(Picture(np.zeros((3, 2, 3), np.uint8)))
        self.assertEqual(ground.at([(0.0, 0.0), (1.9, 2.9), (0.5, 0.2)]), [0.0] * 3)
        self.assertEqual(ground.at([(2.0, 1.0), (1.0, 3.0)]), [1.0, 1.0])
        moved = Ground(Picture(np.zeros((3, 2, 3), np.uint8)), (10.0, 20.0), 2.0)
        self.assertEqual(moved.at([(10.0, 20.0), (10.9, 21.4), (11.0, 20.0), (10.0, 21.5)]), [0.0, 0.0, 1.0, 1.0])

    def test_signs_that_the_font_lacks_are_said(self) -> None:
        """A question mark stands there, and the signs are named: here hieroglyphs."""
        drawn = draw(mark("text", (0, 0), text="Pier \U00013000\U00013001 \U00013000"), 1.0, BARE)
        self.assertEqual("".join(drawn.missing), "\U00013000\U00013001")
        letters = [each.text for each in drawn.operations if isinstance(each, Letters)]
        self.assertEqual(letters, ["Pier ?? ?"])
        self.assertEqual(draw(mark("text", (0, 0), text="Łódź, Århus, Šibenik, שלום 港"), 1.0, BARE).missing, ())

    def test_a_callouts_pointer_follows_its_tip(self) -> None:
        """Whichever side it leaves, it ends at the tip; a tip inside the box has none."""
        for tip in ((5, 60), (195, 60), (100, 5), (100, 118)):
            shapes = draw(mark("callout", tip, (100, 60), text="here"), 1.0, BARE).operations
            paths = [each.path for each in shapes if isinstance(each, Shape)]
            self.assertTrue(any(command[1:] == tip for path in paths for command in path), tip)
        inside = draw(mark("callout", (100, 60), (100, 60.5), text="here and there"), 1.0, BARE).operations
        self.assertEqual(sum(isinstance(each, Shape) for each in inside), 1)

    def test_a_black_out_covers_whole_pixels(self) -> None:
        (shape,) = draw(mark("black-out", (10.2, 20.7), (30.1, 40.5)), 1.0, BARE).operations
        assert isinstance(shape, Shape)
        self.assertEqual(shape.bounds, (10, 20, 31, 41))

    def test_lines_break_between_words(self) -> None:
        drawn = draw(mark("text", (0, 0), (60, 0), text="The vessel that waits"), 1.0, BARE)
        letters = [each.text for each in drawn.operations if isinstance(each, Letters)]
        self.assertGreater(len(letters), 1)
        self.assertEqual(" ".join(letters), "The vessel that waits")

    def test_numbers_are_written_as_short_as_they_can(self) -> None:
        self.assertEqual([number(each) for each in (1.0, 0.0, -0.001, 2.5, 3.14159)], ["1", "0", "0", "2.5", "3.14"])

    def test_a_kind_says_how_it_is_made(self) -> None:
        gestures = {kind.id: kind.gesture for kind in kinds().values()}
        self.assertEqual(gestures["pennant"], "click")
        self.assertEqual(gestures["ring"], "box")
        self.assertEqual(kind_of("pen").gesture, "stroke")


class Together(unittest.TestCase):
    """Rows of marks."""

    def test_draw_all_keeps_the_order(self) -> None:
        drawn = draw_all(ONE_OF_EACH, 1.0, BARE)
        self.assertEqual([each.mark.kind for each in drawn], [each.kind for each in ONE_OF_EACH])
