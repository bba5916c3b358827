"""Ladder and verdict: colours first, pixels last, and only what the limit asks for."""

import unittest

import numpy as np

from tests.support.pictures import encoded, photograph_like, text_like
from tests.support.sack import Sack
from tests.support.screens import screen
from tijera.core.budget.ladder import FIRST, Ladder, Recipe, worth_keeping
from tijera.core.budget.rendition import Rendition, Way, first_rendition, packed_tighter
from tijera.core.budget.search import Goods, Progress, Verdict, Wanted, find_fit
from tijera.core.geometry import Size
from tijera.core.imaging.decode import decode
from tijera.core.imaging.encode import encode_frame, pack_tighter
from tijera.core.imaging.measure import Original
from tijera.core.imaging.picture import Picture
from tijera.core.units import Length

_REST = 5_000
_WIDTH = Length.from_mm(60)


def _ladder(picture: Picture) -> Ladder:
    return Ladder(lambda: picture, first_rendition(picture), _WIDTH)


def _made(picture: Picture) -> list[Rendition]:
    """The rungs of a whole ladder, the heaviest first."""
    ladder = _ladder(picture)
    ladder.begin()
    ladder.go_further()
    return [ladder.made[recipe] for recipe in ladder.rungs()]


def _verdict(wanted: list[Wanted], limit: int, goods: Goods | None = None) -> tuple[Verdict, int]:
    steps = list(find_fit(wanted, limit, goods or Sack(_REST)))
    verdict = steps[-1]
    assert isinstance(verdict, Verdict)
    return verdict, sum(isinstance(step, Progress) for step in steps)


class Ladders(unittest.TestCase):
    """The renditions of one picture."""

    def test_a_screen_gives_up_colours_at_native_pixels_first(self) -> None:
        """The first rungs have every pixel."""
        picture = text_like(400, 240)
        rungs = _made(picture)
        self.assertIs(rungs[0].way, Way.AS_TAKEN)
        self.assertTrue(all(rung.size == picture.size and rung.way is Way.COLOURS for rung in rungs[1:3]))
        self.assertEqual([rung.bytes for rung in rungs], sorted((rung.bytes for rung in rungs), reverse=True))
        self.assertEqual([rung.loss for rung in rungs], sorted(rung.loss for rung in rungs))

    def test_no_rung_loses_words_or_areas(self) -> None:
        """What is lighter and below the floor is never offered; the floor's own figures are in `test_readability`."""
        for picture, recipes in (
            (text_like(400, 240), ((8, 0.6), (2, 0.5), (2, 0.3))),
            (photograph_like(400, 240), ((20, 1.0), (8, 0.6))),
        ):
            ladder = _ladder(picture)
            ladder.begin()
            way = Way.JPEG if picture.is_photograph else Way.COLOURS
            for amount, share in recipes:
                ladder.make(Recipe(way, amount, share))
            rungs = [ladder.made[recipe] for recipe in ladder.rungs()]
            original = Original(picture)
            for rung in rungs:
                loss = original.loss(decode(rung.data))
                self.assertLessEqual(loss.text, 0.04)
                self.assertLessEqual(loss.area, 0.10)
                self.assertLessEqual(loss.edges, 0.22)
            lightest = min(rung.bytes for rung in rungs)
            self.assertTrue(any(each.bytes < lightest for each in ladder.made.values()))

    def test_words_that_are_hard_to_read_are_no_rung(self) -> None:
        """Small type with fewer pixels: its areas look as they did, its words do not."""
        picture = screen("light, mono")
        loose = Rendition(encode_frame(picture), "png", picture.size, Way.AS_TAKEN, 0.0)
        ladder = Ladder(lambda: picture, loose, _WIDTH)
        worse = Recipe(Way.COLOURS, 32, 0.6)
        ladder.make(worse)
        loss = Original(picture).loss(decode(ladder.made[worse].data))
        self.assertTrue(0.1 < loss.text < 0.4 and loss.area < 0.1, loss)
        self.assertEqual(ladder.rungs(), [FIRST])
        self.assertEqual(ladder.rungs(below_floor=True), [FIRST, worse])

    def test_a_screen_keeps_half_its_pixels_and_its_transparency(self) -> None:
        """As far as it is gone by itself; JPEG has no transparency, however many colours there are."""
        pixels = np.dstack((photograph_like(300, 180).pixels, np.full((180, 300), 255, np.uint8)))
        pixels[:60, :, 3] = 0
        for picture in (text_like(300, 180), Picture(pixels).as_seen(), screen("beside a photograph")):
            ladder = _ladder(picture)
            ladder.begin()
            ladder.go_further()
            width = picture.size.width
            for rendition in ladder.made.values():
                self.assertTrue(0.5 * width <= rendition.size.width <= width, rendition.size)
                self.assertEqual(decode(rendition.data).has_alpha, picture.has_alpha)
            # What the user lets fall has half of them at the most.
            before = set(ladder.made)
            ladder.fall()
            fallen = [made for recipe, made in ladder.made.items() if recipe not in before]
            self.assertTrue(fallen and all(each.size.width <= 0.5 * width + 1 for each in fallen))

    def test_between_two_rungs_lies_what_was_not_made(self) -> None:
        """Of as many pixels up to the next amount that was made, whether or not that one was worth keeping."""
        ladder = _ladder(text_like(80, 60))
        low, beaten, high = (Recipe(Way.COLOURS, amount) for amount in (10, 30, 40))
        for recipe in (low, beaten, high):
            ladder.make(recipe)
        self.assertEqual(ladder.between(low, high), Recipe(Way.COLOURS, 17))
        self.assertEqual(ladder.between(low, Recipe(Way.COLOURS, 40, 1.0)), Recipe(Way.COLOURS, 17))
        fewer = Recipe(Way.COLOURS, 10, 0.5)
        ladder.make(fewer)
        self.assertEqual(ladder.between(fewer, high), Recipe(Way.COLOURS, 20, 0.75))
        most = Recipe(Way.COLOURS, 256)
        ladder.make(most)
        self.assertIsNone(ladder.between(most, FIRST))
        self.assertIsNone(ladder.between(FIRST, FIRST))

    def test_between_lies_what_is_expected_to_have_room(self) -> None:
        """Of so many bytes about, the more the better it is; with no room for the least step nothing, where that is asked."""
        for low, high in (
            (Recipe(Way.JPEG, 60), Recipe(Way.JPEG, 85)),
            (Recipe(Way.JPEG, 60, 0.6), Recipe(Way.JPEG, 60, 1.0)),
            (Recipe(Way.COLOURS, 40), Recipe(Way.COLOURS, 200)),
        ):
            ladder = _ladder(photograph_like(260, 150))
            for recipe in (low, high):
                ladder.make(recipe)
            least, most = ladder.made[low].bytes, ladder.made[high].bytes
            shares = (0.25, 0.5, 0.75)
            found = [ladder.between(low, high, least + share * (most - least)) for share in shares]
            for share, middle in zip(shares, found, strict=True):
                assert middle is not None
                ladder.make(middle)
                with self.subTest(middle, share=share):
                    self.assertAlmostEqual((ladder.made[middle].bytes - least) / (most - least), share, delta=0.16)
        ladder = _ladder(photograph_like(260, 150))
        low, high = Recipe(Way.JPEG, 80), Recipe(Way.JPEG, 90)
        for recipe in (low, high):
            ladder.make(recipe)
        hardly = ladder.made[low].bytes + 1
        self.assertIsNone(ladder.between(low, high, hardly, only_with_room=True))
        self.assertEqual(ladder.between(low, high, hardly), Recipe(Way.JPEG, 81))
        # What was made between and is not worth keeping is passed: the best that has room may lie beyond it.
        barren = Recipe(Way.JPEG, 84)
        ladder.make(barren)
        beyond = (ladder.made[barren].bytes + ladder.made[high].bytes) / 2
        self.assertIn(ladder.between(low, high, beyond), [Recipe(Way.JPEG, quality) for quality in (86, 87, 88)])

    def test_what_is_beaten_in_both_is_left_out(self) -> None:
        """Heavier and worse than the one before it, though better than the lightest; of two alike one stays."""
        made = {
            Recipe(Way.COLOURS, number): Rendition(bytes(size), "png", Size(1, 1), Way.COLOURS, loss)
            for number, (size, loss) in enumerate(((10, 0.3), (20, 0.1), (30, 0.2), (40, 0.0), (40, 0.0)))
        }
        self.assertEqual([made[each].bytes for each in worth_keeping(made)], [40, 20, 10])

    def test_a_photograph_becomes_jpeg_and_never_larger_than_it_was(self) -> None:
        """And is not brought below what the floor allows."""
        first, *rungs = _made(photograph_like(900, 500))
        self.assertIs(first.way, Way.AS_TAKEN)
        self.assertTrue(all(rung.way is Way.JPEG and rung.size.width <= 900 for rung in rungs))
        self.assertGreater(min(rung.size.width for rung in rungs), 900 // 4)

    def test_a_photograph_has_as_many_pixels_as_its_place_can_show(self) -> None:
        """The wider it is placed, the more of them stay: 300 to the inch and fewer, step by step (common practice)."""
        picture = photograph_like(900, 500)
        for width, wanted in ((Length.from_mm(60), {900, 709, 567, 449, 283}), (Length.from_mm(400), {900})):
            ladder = Ladder(lambda: picture, first_rendition(picture), width)
            ladder.begin()
            with self.subTest(width):
                self.assertEqual({each.size.width for each in ladder.made.values()}, wanted)

    def test_half_way_lies_between(self) -> None:
        """In bytes as in what it has; from the step below the first one too, and in the end there is nothing between."""
        ladder = _ladder(text_like(400, 240))
        ladder.begin()
        rungs = ladder.rungs()
        for heavier, lighter in ((rungs[0], rungs[1]), (rungs[-2], rungs[-1])):
            made = [lighter]
            while (between := ladder.between(made[-1], heavier)) is not None:
                ladder.make(between)
                made.append(between)
            amounts = [each.amount for each in made]
            self.assertEqual(amounts, sorted(amounts))
            self.assertLessEqual(amounts[-1], heavier.amount or 256)
            self.assertLess(len(made), 10)

    def test_nothing_is_made_or_packed_twice(self) -> None:
        """The picture is looked at once, and again only where others were looked at since."""
        looked = []
        picture = text_like(200, 120)

        def load() -> Picture:
            looked.append(1)
            return picture

        ladder = Ladder(load, first_rendition(picture), _WIDTH)
        for _ in range(2):
            ladder.begin()
            ladder.make(Recipe(Way.COLOURS, 12))
            ladder.pack(FIRST)
        self.assertEqual(len(looked), 1)

    def test_what_is_see_through_stays_so(self) -> None:
        """At every rung: nothing outside a freehand outline becomes white, nothing inside see-through."""
        pixels = np.dstack((text_like(200, 160).pixels, np.full((160, 200), 255, np.uint8)))
        pixels[:40] = 0
        for rung in _made(Picture(pixels)):
            seen = decode(rung.data).pixels
            with self.subTest(rung.way, amount=rung.quality):
                self.assertEqual((rung.extension, seen.shape[2]), ("png", 4))
                if rung.size.width == 200:
                    self.assertFalse(seen[:40, :, 3].any())
                    self.assertTrue((seen[40:, :, 3] == 255).all())

    def test_what_came_without_loss_leaves_without_loss(self) -> None:
        """Whole or a part of it, from a screen, a PNG or a BMP: every pixel as it was."""
        picture = photograph_like(120, 70)
        for source in (None, encoded(picture), encoded(picture, "BMP")):
            for is_whole in (True, False):
                first = first_rendition(picture, source, is_whole=is_whole)
                self.assertEqual((first.extension, first.way, first.loss), ("png", Way.AS_TAKEN, 0.0))
                self.assertTrue(np.array_equal(decode(first.data).pixels, picture.pixels))

    def test_an_uncut_jpeg_keeps_its_own_bytes(self) -> None:
        """Decoding and encoding again would cost quality for nothing."""
        source = encoded(photograph_like(300, 170), "JPEG", quality=80)
        first = first_rendition(decode(source), source)
        self.assertEqual((first.way, first.loss), (Way.AS_IT_CAME, 0.0))
        self.assertLessEqual(first.bytes, len(source))


class Finding(unittest.TestCase):
    """Under the limit with the least loss."""

    def setUp(self) -> None:
        """A screen and a photograph."""
        self.pictures = (text_like(300, 180), photograph_like(260, 150))
        self.firsts = [first_rendition(picture) for picture in self.pictures]
        self.now = Sack(_REST).written(self.firsts)

    def wanted(self) -> list[Wanted]:
        """Both, nothing made yet."""
        return [Wanted(_ladder(picture)) for picture in self.pictures]

    def test_under_the_limit_nothing_changes(self) -> None:
        """Not even a search is made."""
        verdict, steps = _verdict(self.wanted(), self.now)
        self.assertEqual(([each.data for each in verdict.renditions], steps), ([each.data for each in self.firsts], 0))
        self.assertTrue(verdict.fits)

    def test_one_byte_over_is_met_and_loses_nothing(self) -> None:
        """With a result that was written, not estimated; the same pixels packed tighter are enough."""
        verdict, steps = _verdict(self.wanted(), self.now - 1)
        self.assertTrue(verdict.fits)
        self.assertEqual(verdict.written_bytes, Sack(_REST).written(verdict.renditions))
        self.assertLess(verdict.written_bytes, self.now)
        self.assertEqual(sum(each.loss for each in verdict.renditions), 0)
        self.assertGreater(steps, 0)

    def test_what_is_packed_tighter_suffices_where_it_can(self) -> None:
        """To the byte."""
        tight = [packed_tighter(each) for each in self.firsts]
        self.assertLess(tight[0].bytes, self.firsts[0].bytes)
        verdict, _ = _verdict(self.wanted(), Sack(_REST).written(tight))
        self.assertEqual([each.data for each in verdict.renditions], [each.data for each in tight])

    def test_what_the_file_itself_takes_is_found_out_by_writing(self) -> None:
        """Here each JPEG costs it 9 kB of its own, which nobody said before."""
        for share in (0.4, 0.5, 0.6):
            limit = int(self.now * share)
            verdict, _ = _verdict(self.wanted(), limit, Sack(_REST, another_way=9_000))
            with self.subTest(share):
                self.assertTrue(verdict.fits)
                self.assertEqual(verdict.written_bytes, Sack(_REST, another_way=9_000).written(verdict.renditions))
                self.assertGreater(verdict.written_bytes, limit * 0.9)

    def test_the_bytes_that_there_are_are_used(self) -> None:
        """At any limit: a thousandth of it is free at the most, or the next better rendition lacks what it says."""
        for goods in (Sack(_REST), Sack(40_000, copies=2)):
            now = goods.written(self.firsts)
            for share in (0.95, 0.6, 0.3):
                limit = goods.written([]) + int((now - goods.written([])) * share)
                wanted = self.wanted()
                verdict, _ = _verdict(wanted, limit, goods)
                free = limit - verdict.written_bytes
                with self.subTest(share=share, own=goods.written([])):
                    self.assertTrue(verdict.fits)
                    self.assertGreaterEqual(free, 0)
                    self.assertTrue(free <= limit / 1_000 or all(each is None or each > 0 for each in verdict.lacking))
                    if free > limit / 1_000:
                        # Then nothing lies between what was chosen and what does not fit.
                        for each, rendition in zip(wanted, verdict.renditions, strict=True):
                            rungs = each.ladder.rungs()
                            at = next(n for n, rung in enumerate(rungs) if each.ladder.made[rung] is rendition)
                            self.assertIsNone((at and each.ladder.between(rungs[at], rungs[at - 1])) or None)

    def test_nothing_better_would_have_room_if_it_were_packed_tighter(self) -> None:
        """That is tried before it is said to be out of reach."""
        for share in (0.8, 0.5):
            (alone,) = self.wanted()[:1]
            limit = _REST + int(packed_tighter(self.firsts[0]).bytes * share)
            verdict, _ = _verdict([alone], limit)
            rungs = [alone.ladder.made[recipe] for recipe in alone.ladder.rungs()]
            better = rungs[next(at for at, rung in enumerate(rungs) if rung is verdict.renditions[0]) - 1]
            with self.subTest(share):
                self.assertEqual(better.extension, "png")
                self.assertGreater(
                    verdict.written_bytes - verdict.renditions[0].bytes + len(pack_tighter(better.data)), limit
                )

    def test_few_files_are_written(self) -> None:
        """What it weighs is reckoned; written is what proves it."""
        goods = Sack(_REST)
        _verdict(self.wanted(), self.now // 2, goods)
        self.assertLessEqual(goods.writes, 6)

    def test_a_second_limit_finds_what_was_made(self) -> None:
        """Nothing is looked at again where nothing finer is asked for."""
        wanted = self.wanted()
        _, first = _verdict(wanted, self.now // 2)
        _, again = _verdict(wanted, self.now // 2)
        self.assertLess(again, first // 2)

    def test_another_limit_costs_next_to_nothing(self) -> None:
        """Few renditions are added for it, and what is lost is hardly more than a search from the beginning finds."""
        pictures = [photograph_like(260 + 10 * number, 150) for number in range(4)]
        pictures += [text_like(300 + 20 * number, 180) for number in range(4)]
        wanted = [Wanted(_ladder(picture)) for picture in pictures]
        now = Sack(_REST).written([each.ladder.first for each in wanted])
        _verdict(wanted, now // 2)
        for share in (0.45, 0.6):
            before = sum(len(each.ladder.made) for each in wanted)
            again, _ = _verdict(wanted, int(now * share))
            fresh, _ = _verdict([Wanted(_ladder(picture)) for picture in pictures], int(now * share))
            with self.subTest(share):
                self.assertLessEqual(sum(len(each.ladder.made) for each in wanted) - before, 4)
                losses = [sum(each.loss for each in verdict.renditions) for verdict in (again, fresh)]
                self.assertLessEqual(losses[0], losses[1] * 1.1)
                self.assertGreater(again.written_bytes, now * share * 0.98)

    def test_what_is_kept_stays_and_what_matters_more_keeps_more(self) -> None:
        """As the user says."""
        screen, photograph = (_ladder(picture) for picture in self.pictures)
        limit = self.now * 3 // 5
        kept, _ = _verdict([Wanted(screen, is_kept=True), Wanted(photograph)], limit)
        self.assertEqual(kept.renditions[0].data, self.firsts[0].data)
        self.assertTrue(kept.fits)
        losses = []
        for matters in (0.1, 1.0, 20.0):
            others = [_ladder(photograph_like(200, 120)), _ladder(photograph_like(210, 120))]
            verdict, _ = _verdict([Wanted(others[0]), Wanted(others[1], matters)], _REST + 24_000)
            losses.append(verdict.renditions[1].loss)
        self.assertGreater(losses[0], losses[2])
        self.assertEqual(losses, sorted(losses, reverse=True))

    def test_what_is_kept_is_weighed_as_it_is_carried(self) -> None:
        """Though an earlier search packed it tighter, and later ones find that: to the byte, and within the limit."""
        wanted = self.wanted()
        _verdict(wanted, self.now - 1)
        kept = [Wanted(wanted[0].ladder, is_kept=True), wanted[1]]
        packed = wanted[0].ladder.made[FIRST]
        self.assertLess(packed.bytes, self.firsts[0].bytes)
        beside, _ = _verdict(kept, self.now // 2)
        limit = Sack(_REST).written((packed, beside.renditions[1]))
        verdict, _ = _verdict(kept, limit)
        self.assertTrue(verdict.fits)
        self.assertEqual((verdict.written_bytes, Sack(_REST).written(verdict.renditions)), (limit, limit))
        self.assertTrue(np.array_equal(decode(verdict.renditions[0].data).pixels, self.pictures[0].pixels))

    def test_what_was_chosen_is_packed_as_tightly_as_can_be(self) -> None:
        """Where a screen gave up colours, packing it once more saves nothing."""
        for share in (0.75, 0.85, 0.9, 0.6):
            (alone,) = self.wanted()[:1]
            verdict, _ = _verdict([alone], _REST + int(packed_tighter(self.firsts[0]).bytes * share))
            (only,) = verdict.renditions
            self.assertEqual((verdict.fits, only.extension), (True, "png"))
            self.assertIsNot(only.way, Way.AS_TAKEN)
            self.assertEqual(len(pack_tighter(only.data)), only.bytes)
            (chosen,) = (recipe for recipe, made in alone.ladder.made.items() if made is only)
            self.assertIn(chosen, alone.ladder.packed)

    def test_how_far_the_next_better_rendition_is_is_said_to_the_byte(self) -> None:
        """With so many bytes more it is chosen, with one fewer it is not; nothing is lacking where nothing is better."""
        wanted = [Wanted(_ladder(self.pictures[1]))]
        verdict, _ = _verdict(wanted, self.now // 3)
        (lacks,) = verdict.lacking
        assert lacks is not None
        more = self.now // 3 + lacks
        self.assertEqual(_verdict(wanted, more - 1)[0].renditions, verdict.renditions)
        self.assertLess(_verdict(wanted, more)[0].renditions[0].loss, verdict.renditions[0].loss)
        self.assertEqual(_verdict(wanted, 10 * self.now)[0].lacking, (None,))

    def test_where_no_byte_is_free_nothing_finer_is_looked_for(self) -> None:
        """Asked again for what was found: the same, in no step."""
        wanted = self.wanted()
        found, _ = _verdict(wanted, self.now // 2)
        again, steps = _verdict(wanted, found.written_bytes)
        self.assertEqual((again.renditions, steps), (found.renditions, 0))

    def test_the_least_that_can_be_is_packed_as_tightly_as_can_be(self) -> None:
        """What can't be met is said with the true least; what can be met packs no more than it needs."""
        verdict, _ = _verdict(self.wanted(), 100)
        self.assertFalse(verdict.fits)
        for each in verdict.renditions:
            self.assertEqual(packed_tighter(each).bytes, each.bytes)
        wanted = self.wanted()
        _verdict(wanted, self.now // 2)
        lightest = [(each.ladder, each.rungs()[-1]) for each in wanted]
        self.assertTrue(any(recipe not in ladder.packed for ladder, recipe in lightest if recipe.extension == "png"))

    def test_packing_comes_first_only_where_it_may_be_enough(self) -> None:
        """It is slow: where half has to go, what fewer colours would lose is measured at once."""
        for limit, doing in ((self.now - 500, "packing"), (self.now // 2, "measuring")):
            first = next(iter(find_fit(self.wanted(), limit, Sack(_REST))))
            assert isinstance(first, Progress)
            self.assertTrue(first.doing.startswith(doing), first.doing)

    def test_progress_never_goes_back_nor_beyond_its_end(self) -> None:
        """Each step further than the one before, none behind its end."""
        steps = [each for each in find_fit(self.wanted(), self.now // 2, Sack(_REST)) if isinstance(each, Progress)]
        done = [each.done for each in steps]
        self.assertEqual(done, list(range(1, len(done) + 1)))
        self.assertTrue(all(each.done < each.of for each in steps))

    def test_the_photograph_pays_before_the_text(self) -> None:
        """Half the bytes gone, every word kept."""
        verdict, _ = _verdict(self.wanted(), self.now // 2)
        self.assertTrue(verdict.fits)
        screen, photograph = verdict.renditions
        self.assertEqual(screen.size, self.pictures[0].size)
        self.assertLess(screen.loss, 0.02)
        self.assertIs(photograph.way, Way.JPEG)

    def test_what_can_not_be_met_is_said_with_the_least_that_can_be(self) -> None:
        """The floor is not broken to get there."""
        verdict, _ = _verdict(self.wanted(), _REST + 10)
        self.assertFalse(verdict.fits)
        self.assertEqual(verdict.written_bytes, Sack(_REST).written(verdict.renditions))
        for picture, rendition in zip(self.pictures, verdict.renditions, strict=True):
            rungs = _made(picture)
            self.assertLessEqual(rendition.bytes, rungs[-1].bytes)
            self.assertEqual(rendition.loss, rungs[-1].loss)
