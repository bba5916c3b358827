"""Text in every script: each sign has a letter, runs as far as its font says, the right way, and none is lost in breaking lines."""

import random
import unittest

import numpy as np
from numpy.typing import NDArray
from PIL import ImageFont

from tijera.core.imaging import vips
from tijera.core.marks.letters import face, lines_of
from tijera.core.marks.scripts import FONTS, may_break_before, runs_leftwards, scripts
from tijera.core.marks.svg import document, element
from tijera.core.marks.text import set_text

SAMPLES = {
    "signs": "→ ≤ ≥ µ Ω ✓",
    "Greek": "Ελληνικά",
    "Cyrillic": "Кириллица",
    "Hebrew": "שלום עולם",
    "Arabic": "مرحبا بالعالم",
    "Devanagari": "नमस्ते दुनिया",
    "Thai": "สวัสดีชาวโลก",
    "Chinese": "中文码头",
    "Japanese": "日本語の港",
    "Korean": "한국어 항구",
    "emoji": "⚓🚢🙂👍🏽",
    "Georgian": "ქართული ნავსადგური",
    "Armenian": "Հայերեն նավահանգիստ",
    "Syriac": "ܠܫܢܐ ܣܘܪܝܝܐ",
    "Thaana": "ދިވެހި ބަސް",
    "Ethiopic": "አማርኛ ወደብ",
    "N’Ko": "ߒߞߏ ߞߊ߲",
    "Tifinagh": "ⵜⴰⵎⴰⵣⵉⵖⵜ",
    "Bengali": "বাংলা বন্দর",
    "Gurmukhi": "ਪੰਜਾਬੀ",
    "Gujarati": "ગુજરાતી બંદર",
    "Odia": "ଓଡ଼ିଆ ବନ୍ଦର",
    "Tamil": "தமிழ் துறைமுகம்",
    "Telugu": "తెలుగు ఓడరేవు",
    "Kannada": "ಕನ್ನಡ ಬಂದರು",
    "Malayalam": "മലയാളം തുറമുഖം",
    "Sinhala": "සිංහල වරාය",
    "Myanmar": "မြန်မာဘာသာ",
    "Khmer": "ភាសាខ្មែរ",
    "Lao": "ພາສາລາວ",
    "Javanese": "ꦧꦱꦗꦮ",
    "Balinese": "ᬩᬲᬩᬮᬶ",
    "Mongolian": "ᠮᠣᠩᠭᠣᠯ",
    "Cherokee": "ᏣᎳᎩ ᎦᏬᏂᎯᏍᏗ",
    "Canadian syllabics": "ᐃᓄᒃᑎᑐᑦ",
    "Tibetan": "བོད་སྐད",
}


def _ink(text: str, width: float | None = None) -> NDArray[np.bool_]:
    """Where a text is inked, set at 40 px from the corner."""
    svg = document(
        "".join(element(each) for each in set_text(text, face("next"), 40, (0, 0), "#000000", width).lines),
        (0, 0, 700, 300),
    )
    inked: NDArray[np.bool_] = vips.draw_svg(svg, 1).pixels[:, :, 3] > 96
    return inked


class Every(unittest.TestCase):
    """Nothing leaves as a question mark that a font here can draw."""

    def test_each_script_is_drawn_with_letters_of_its_own(self) -> None:
        """No sign is said to be missing, none is replaced, and what is inked is neither boxes nor question marks."""
        for name, text in SAMPLES.items():
            with self.subTest(name):
                of = face("next")
                self.assertEqual(of.missing(text), ())
                self.assertEqual(of.drawable(text), text)
                ink = _ink(text)
                self.assertTrue(ink.any())
                self.assertFalse(np.array_equal(ink, _ink("?" * len(text))))
                # What has no letter is drawn as the same box again and again: other signs, other ink.
                other = "".join(chr(0x13000 + number) for number in range(len(text)))
                self.assertFalse(np.array_equal(ink, _ink(other)))

    def test_a_sign_that_no_font_has_is_named_and_holds_its_place(self) -> None:
        """An Egyptian hieroglyph (U+13000)."""
        self.assertEqual(face("next").missing("a\U00013000b\U00013000"), ("\U00013000",))
        self.assertEqual(face("next").drawable("a\U00013000b"), "a?b")

    def test_advances_are_those_of_the_fonts(self) -> None:
        """Read by Pillow's FreeType, without shaping: 300 signs of every font, within two hundredths of an em: FreeType rounds."""
        pick = random.Random(7)
        for script in scripts():
            font = ImageFont.truetype(FONTS / f"{script.file}.ttf", 1_000, layout_engine=ImageFont.Layout.BASIC)
            codes = [
                code for start, end in zip(script.starts, script.ends, strict=True) for code in range(start, end + 1)
            ]
            for code in pick.sample(codes, min(300, len(codes))):
                sign = chr(code)
                self.assertAlmostEqual(
                    script.advance(sign) or 0.0, font.getlength(sign) / 1_000, delta=0.02, msg=f"U+{code:04X}"
                )
            self.assertIsNone(script.advance("\U00013000"))

    def test_spaces_between_scripts_are_of_the_own_font(self) -> None:
        """What follows a word of a script with wide spaces stands where the face's own space ends, to a pixel and a half."""
        for word in (SAMPLES["Sinhala"], SAMPLES["Greek"], SAMPLES["Khmer"]):
            ends = [np.flatnonzero(_ink(text).any(axis=0))[-1] for text in (word, f"{word} x", "x x", "x")]
            word_end, with_x, two, one = (int(each) for each in ends)
            self.assertAlmostEqual(with_x - word_end, two - one, delta=1.5, msg=word)

    def test_what_ships_stays_small(self) -> None:
        """Below 25 MB, all fonts together."""
        self.assertLess(sum(path.stat().st_size for path in FONTS.glob("*.ttf")), 25_000_000)

    def test_han_signs_look_as_in_the_language_round_them(self) -> None:
        """With kana beside them as in Japanese, with hangul as in Korean, else as in Chinese."""
        self.assertEqual(face("next").families("港"), "Atkinson Hyperlegible Next, Noto Sans SC")
        self.assertIn("Noto Sans JP", face("next").families("港の"))
        self.assertNotIn("Noto Sans SC", face("next").families("港の"))
        self.assertFalse(np.array_equal(_ink("直"), _ink("直の")[:, :700]))


class Direction(unittest.TestCase):
    """By the first strong sign (Unicode Standard Annex 9, rules P2 and P3)."""

    def test_which_way_a_text_runs(self) -> None:
        """Digits and signs have no direction; Latin before Hebrew runs to the right."""
        for text, leftwards in (
            ("שלום", True),
            ("12: مرحبا", True),
            ("Quay שלום", False),
            ("12:50", False),
            ("", False),
        ):
            self.assertEqual(runs_leftwards(text), leftwards, text)

    def test_it_stands_at_the_right_of_its_width(self) -> None:
        """The ink ends where the text's box ends, and not where it begins."""
        for text in (SAMPLES["Hebrew"], SAMPLES["Arabic"]):
            columns = np.flatnonzero(_ink(text, 600).any(axis=0))
            self.assertGreater(int(columns[-1]), 560)
            self.assertGreater(int(columns[0]), 250)
        columns = np.flatnonzero(_ink("Ferry", 600).any(axis=0))
        self.assertLess(int(columns[0]), 40)

    def test_joined_letters_are_joined(self) -> None:
        """Arabic letters beside each other are one piece of ink: fewer gaps than letters (shaped, not set one by one)."""
        columns = np.asarray(_ink("ببببب").any(axis=0))
        inked = np.flatnonzero(columns)
        self.assertTrue(columns[inked[0] : inked[-1] + 1].all())


class Breaking(unittest.TestCase):
    """Lines break at a width, and no sign is lost."""

    def test_nothing_is_lost_at_any_width(self) -> None:
        """Of all scripts, words without spaces too; no line is wider than asked, unless one sign is."""
        of, pick = face("next"), random.Random(3)
        for _ in range(300):
            text = " ".join(pick.choices([*SAMPLES.values(), "timetable" * 4, "a", ""], k=pick.randint(1, 6)))
            width = pick.uniform(20, 500)
            lines = lines_of(text, of, 20, width)
            self.assertEqual("".join(lines).replace(" ", ""), text.replace(" ", ""))
            for line in lines:
                signs = sum(may_break_before(sign) for sign in line)
                self.assertTrue(of.advance(line, 20) <= width + 0.01 or signs <= 1, (line, width))

    def test_nothing_is_parted_from_what_is_written_onto_it(self) -> None:
        """No line begins with a combining sign."""
        for text in (SAMPLES["Devanagari"], SAMPLES["Thai"], "e\u0301" * 30):
            for line in lines_of(text, face("next"), 20, 45):
                self.assertTrue(line == "" or may_break_before(line[0]), repr(line))
