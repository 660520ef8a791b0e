"""Cut lists: held against all ways to cut where those can be counted, else against a bound."""

import random
import unittest
from functools import cache

from calm_basin.core.order.cutting import Cutting, cut
from tests.sweeps import some, sweep


def cheapest(pieces: tuple[int, ...], stocks: tuple[int, ...], kerf: int) -> int:
    """The least stock, mm, that gives all pieces, by trying every way (exhaustive search)."""

    @cache
    def best(left: tuple[int, ...]) -> int:
        if not left:
            return 0
        found = 10**9
        for stock in stocks:
            # The first that is left is in the next length, with any of the others.
            for taken in subsets(left[1:], stock - left[0]):
                rest = list(left[1:])
                for one in taken:
                    rest.remove(one)
                found = min(found, stock + best(tuple(rest)))
        return found

    @cache
    def subsets(of: tuple[int, ...], room: int) -> frozenset[tuple[int, ...]]:
        if room < 0:
            return frozenset()
        found = {()}
        for i, one in enumerate(of):
            for more in subsets(of[i + 1 :], room - kerf - one):
                found.add((one, *more))
        return frozenset(found)

    return best(tuple(sorted(pieces, reverse=True)))


class CuttingTest(unittest.TestCase):
    def whole(self, made: Cutting, pieces: tuple[float, ...], kerf: float) -> None:
        """Every piece is cut once, and no length is cut into more than it is."""
        self.assertEqual(sorted(p for bar in made.bars for p in bar.pieces), sorted(pieces))
        for bar in made.bars:
            used = sum(bar.pieces) + kerf * (len(bar.pieces) - 1)
            self.assertLessEqual(used, bar.stock + 1e-6)
            self.assertAlmostEqual(
                bar.left, max(bar.stock - sum(bar.pieces) - kerf * len(bar.pieces), 0)
            )

    @sweep
    def test_small_cut_lists_are_the_cheapest_of_all(self) -> None:
        several = 0
        for seed in range(some(150)):
            chance = random.Random(seed)
            stocks = tuple(
                sorted(chance.sample((2400, 3000, 3600, 4800), chance.choice((1, 1, 2))))
            )
            kerf = chance.choice((0, 3, 4))
            pieces = tuple(
                chance.choice((400, 610, 797, 1200, chance.randrange(150, stocks[0])))
                for _ in range(chance.randrange(1, 8))
            )
            made = cut(pieces, stocks, kerf)
            self.whole(made, pieces, kerf)
            bought = sum(bar.stock for bar in made.bars)
            self.assertEqual(bought, cheapest(pieces, stocks, kerf), (pieces, stocks, kerf))
            self.assertTrue(made.proven)
            self.assertAlmostEqual(made.bound, bought)
            several += len(made.bars) > 1
        self.assertGreater(several, some(150) // 4)

    def test_divided_length_would_buy_too_little(self) -> None:
        # Three of 1300 out of lengths of 2400: 3900 mm is 1.6 lengths, but each takes one.
        made = cut((1300.0,) * 3, (2400.0,), 3.0)
        self.assertEqual(len(made.bars), 3)

    @sweep
    def test_large_cut_lists_are_within_the_gap_that_is_told(self) -> None:
        for seed in range(some(12)):
            chance = random.Random(seed)
            pieces = tuple(chance.uniform(150, 2300) for _ in range(chance.randrange(40, 120)))
            made = cut(pieces, (2438.4,), 3.0)
            self.whole(made, pieces, 3.0)
            bought = sum(bar.stock for bar in made.bars)
            # No cut list can buy less than what the pieces are long.
            least = -(-sum(pieces) // 2438.4) * 2438.4
            self.assertGreaterEqual(made.bound, least - 1e-6)
            self.assertGreaterEqual(bought, made.bound - 1e-6)
            self.assertEqual(made.proven, bought - made.bound < 1)
            self.assertLess((bought - made.bound) / bought, 0.1)

    def test_what_is_longer_than_any_length_is_joined_and_said(self) -> None:
        made = cut((5000.0, 900.0), (2400.0,), 3.0)
        self.assertEqual(made.joined, (5000.0,))
        self.assertEqual(sorted(p for bar in made.bars for p in bar.pieces), [200, 900, 2400, 2400])

    def test_nothing_to_cut_buys_nothing(self) -> None:
        self.assertEqual(cut((), (2400.0,), 3.0).bars, ())
