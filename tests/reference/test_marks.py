"""Marks and pictures against the outside: standards' formulas, fonts' own metrics, general imaging libraries."""

from __future__ import annotations

import cmath
import math
import unittest

import numpy as np
from PIL import Image, ImageFont
from skimage.color import rgb2lab

from tests.support.sheets import Given, clipping_of, mark, screen
from tijera.core.clippings.composing import compose
from tijera.core.clippings.sheet import Sheet, Turn
from tijera.core.clippings.turning import turned_size
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.lettering import smallest_text
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.printfriendly import lab_of, print_friendly
from tijera.core.imaging.vips import draw_svg
from tijera.core.marks.colours import COLOURS, contrast, edge_for, luminance, words_on
from tijera.core.marks.ground import Ground
from tijera.core.marks.kinds import draw
from tijera.core.marks.letters import face
from tijera.core.marks.line import angle_of, with_angle
from tijera.core.marks.operations import Letters
from tijera.core.marks.scripts import FONTS
from tijera.core.marks.svg import document, group
from tijera.desk.desk import PracticeDesk

WHITE = '<rect x="-99" y="-99" width="9999" height="9999" fill="#ffffff"/>'


class Contrast(unittest.TestCase):
    """WCAG 2.2: relative luminance and contrast ratio."""

    def test_known_ratios(self) -> None:
        """Black on white is 21 by the definition; #767676 is the lightest grey with 4.5 on white, #777777 has 4.48
        (Understanding SC 1.4.3).
        """
        ratio = {grey: contrast(luminance(grey), luminance("#ffffff")) for grey in ("#000000", "#767676", "#777777")}
        self.assertAlmostEqual(ratio["#000000"], 21.0, 9)
        self.assertGreaterEqual(ratio["#767676"], 4.5)
        self.assertAlmostEqual(ratio["#777777"], 4.48, 2)

    def test_luminance_is_y_of_the_standard_colour_space(self) -> None:
        """Against scikit-image's XYZ (IEC 61966-2-1)."""
        from skimage.color import rgb2xyz

        for _, value in COLOURS.values():
            rgb = np.array([[[int(value[at : at + 2], 16) for at in (1, 3, 5)]]], dtype=np.uint8)
            self.assertAlmostEqual(luminance(value), float(rgb2xyz(rgb)[0, 0, 1]), 3)

    def test_every_colour_has_an_edge_and_words_that_hold(self) -> None:
        """3 : 1 for graphical objects (SC 1.4.11), 4.5 : 1 for words (SC 1.4.3)."""
        for name, (_, value) in COLOURS.items():
            self.assertGreaterEqual(contrast(luminance(value), luminance(edge_for(value))), 3.0, name)
            self.assertGreaterEqual(contrast(luminance(value), luminance(words_on(value))), 4.5, name)


class Fonts(unittest.TestCase):
    """Text against the fonts' own metrics, read by FreeType (through Pillow)."""

    def test_advances_are_those_of_the_font(self) -> None:
        for name, bold, file in (
            ("next", False, "hyperlegible-next-400"),
            ("next", True, "hyperlegible-next-700"),
            ("mono", False, "hyperlegible-mono-400"),
            ("serif", True, "newsreader-700"),
        ):
            font = ImageFont.truetype(str(FONTS / f"{file}.ttf"), 1000, layout_engine=ImageFont.Layout.BASIC)
            for text in ("Harbour", "Łódź 4417", "wave"):
                own = face(name, bold=bold).advance(text, 1000)
                # Without kerning: the letters one by one.
                theirs = sum(font.getlength(letter) for letter in text)
                self.assertAlmostEqual(own, theirs, delta=len(text), msg=f"{file} {text}")

    def test_a_label_of_nine_points_has_the_fonts_height(self) -> None:
        """The H that is drawn is as high as the capitals of the font, at any scale."""
        for px_per_pt in (1.0, 2.0, 5.0):
            drawn = draw(mark("text", (10, 10), text="H", ground="none", size_pt=9.0), px_per_pt, Ground(None))
            svg = document(WHITE + group(drawn.operations, "m"), (0, 0, 100, 100))
            pixels = draw_svg(svg, 1).pixels[:, :, 0].astype(float)
            share = (255 - pixels.min(axis=1)) / (255 - pixels.min())
            expected = face("next").cap_height * 9.0 * px_per_pt
            self.assertAlmostEqual(float(share.sum()), expected, delta=1.0)

    def test_the_shipped_fonts_are_the_ones_that_draw(self) -> None:
        """Rendered advances follow the measures: with another font they would not."""
        for name in ("next", "mono", "serif"):
            drawn = draw(mark("text", (10, 10), text="HHHHHHHHHH", ground="none", font=name), 4.0, Ground(None))
            (letters,) = drawn.operations
            assert isinstance(letters, Letters)
            svg = document(WHITE + group(drawn.operations, "m"), (0, 0, 600, 100))
            inked = np.flatnonzero(draw_svg(svg, 1).pixels[:, :, 0].min(axis=0) < 128)
            self.assertAlmostEqual(float(inked[-1] - inked[0]), letters.advance, delta=0.25 * letters.size)


class Geometry(unittest.TestCase):
    """Against the standard library and a general imaging library."""

    def test_angles_by_complex_numbers(self) -> None:
        """The phase of the difference, y upward."""
        for bx, by in ((90, -40), (-30, 25), (0, -9), (12, 0), (-7, 0)):
            points = ((10.0, 20.0), (10.0 + bx, 20.0 + by))
            self.assertAlmostEqual(angle_of(points), math.degrees(cmath.phase(complex(bx, -by + 0.0))), 9)
            turned = with_angle(points, 33.0)
            self.assertAlmostEqual(angle_of(turned), 33.0, 9)
            self.assertAlmostEqual(math.dist(*turned), math.hypot(bx, by), 9)

    def test_an_angle_turns_as_a_general_library_does(self) -> None:
        """Pillow's rotation about the middle, bilinear, on the same canvas; the sides and sharp edges are left out."""
        smooth = smooth_picture()
        turn = Turn(degrees=-17)
        size = turned_size(turn, Size(160, 110))
        ours = compose(clipping_of(smooth, sheet=Sheet(turn=turn)), Given(Picture(smooth)), 1.0).pixels
        canvas = Image.new("RGB", (size.width, size.height))
        canvas.paste(Image.fromarray(smooth), ((size.width - 160) // 2, (size.height - 110) // 2))
        # Pillow turns anticlockwise, and about a middle that lies on whole pixels only for even differences.
        theirs = np.asarray(canvas.rotate(17, Image.Resampling.BILINEAR))
        inner = (ours[:, :, 3] == 255) & (theirs.sum(axis=2) > 60)
        inner &= np.roll(inner, 6, 0) & np.roll(inner, -6, 0) & np.roll(inner, 6, 1) & np.roll(inner, -6, 1)
        away = np.abs(ours[:, :, :3].astype(int) - theirs)[inner]
        self.assertGreater(int(inner.sum()), 8_000)
        self.assertLess(float(away.mean()), 2.0)

    def test_scaling_is_that_of_a_general_library(self) -> None:
        """Pillow's Lanczos, on a picture without sharp edges."""
        smooth = smooth_picture()
        ours = compose(clipping_of(smooth, sheet=Sheet(scale=0.5)), Given(Picture(smooth)), 1.0).pixels
        theirs = np.asarray(Image.fromarray(smooth).resize((80, 55), Image.Resampling.LANCZOS))
        self.assertLess(float(np.abs(ours.astype(int) - theirs).mean()), 1.0)


def smooth_picture() -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    """Slow waves, other ones in every band; 160 × 110."""
    down, across = np.mgrid[0:110, 0:160]
    bands = [128 + 100 * np.sin(across / 23 + band) * np.cos(down / (17 + band * 3)) for band in range(3)]
    return np.stack(bands, axis=2).astype(np.uint8)


class PrintFriendly(unittest.TestCase):
    """Against scikit-image's CIE L*a*b* (D65, 2°)."""

    def test_our_lab_is_theirs(self) -> None:
        colours = np.random.default_rng(1).integers(0, 256, (500, 3), dtype=np.uint8)
        theirs = rgb2lab(colours[None])[0]
        self.assertLess(float(np.abs(lab_of(colours) - theirs).max()), 0.05)

    def test_lightness_turns_round_and_hues_stay(self) -> None:
        """Hue within 4° wherever there is chroma to see, lightness within 1.5 of 100 − L*."""
        dark = np.full((60, 90, 3), (20, 28, 34), np.uint8)
        inks = [(240, 239, 232), (110, 190, 150), (210, 120, 90), (120, 150, 230), (230, 190, 80)]
        for index, ink in enumerate(inks):
            dark[10:20, 5 + index * 16 : 17 + index * 16] = ink
        light = print_friendly(Picture(dark)).pixels
        for index, ink in enumerate(inks):
            before = rgb2lab(np.array([[ink]], dtype=np.uint8))[0, 0]
            after = rgb2lab(light[15, 10 + index * 16][None, None])[0, 0]
            self.assertAlmostEqual(after[0], 100 - before[0], delta=1.5)
            if math.hypot(before[1], before[2]) > 10:
                turn = math.degrees(math.atan2(after[2], after[1]) - math.atan2(before[2], before[1]))
                self.assertLess(abs((turn + 180) % 360 - 180), 4.0, ink)
        self.assertGreater(float(rgb2lab(light[:1, :1])[0, 0, 0]), 85)


class SmallestText(unittest.TestCase):
    """Against text whose size is known, because the practice desk or the renderer drew it."""

    WORDS = ("Before a vessel is called in, the watch reads", "the depth under keel from the tide board.")

    def test_eight_to_twenty_four_pixels_within_one(self) -> None:
        for size in range(8, 25):
            for ink, ground in (("#20282a", "#fbf8f1"), ("#fbf8f1", "#143a35")):
                lines = "".join(
                    f'<text x="10.3" y="{30 + row * 40.4}" font-size="{size}" font-family="Atkinson Hyperlegible Next" '
                    f'fill="{ink}">{words}</text>'
                    for row, words in enumerate(self.WORDS)
                )
                svg = document(f'<rect width="700" height="110" fill="{ground}"/>{lines}', (0, 0, 700, 110))
                found = smallest_text(Picture(np.ascontiguousarray(draw_svg(svg, 1).pixels[:, :, :3])))
                self.assertIsNotNone(found, (size, ink))
                assert found is not None
                self.assertAlmostEqual(found.em_px, size, delta=1.0, msg=f"{size} px, {ink}")

    def test_on_the_practice_desk(self) -> None:
        """The roster is set in 11.5 at a scale factor of 1.5, the engine log in 12 and 12.5 (scenes/harbour-office.toml)."""
        grab = PracticeDesk().grab()
        for title, size in (("Crew roster, week 11", 11.5 * 1.5), ("Engine log", 12 * 1.5), ("Weather", 12.0)):
            window = next(each for each in grab.frame.windows if each.title.startswith(title))
            whole = grab.whole.get(window.id)
            shown = window.box.within(grab.picture.size)
            assert shown is not None
            picture = whole or grab.picture.cut(shown)
            found = smallest_text(Picture(picture.pixels[:, :, :3].copy()))
            assert found is not None
            self.assertAlmostEqual(found.em_px, size, delta=1.0, msg=title)

    def test_no_text_is_said_to_be_none(self) -> None:
        """A flat picture, and a photograph."""
        grab = PracticeDesk().grab()
        chart = next(each for each in grab.frame.windows if each.title == "Harbour chart")
        picture = (grab.whole.get(chart.id) or grab.picture).cut(Rect(300, 250, 300, 300))
        for each in (Picture(np.full((90, 160, 3), 200, np.uint8)), Picture(screen()), picture):
            self.assertIsNone(smallest_text(each))
