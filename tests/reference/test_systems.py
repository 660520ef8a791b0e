"""What ships of build systems and drains against the values that practitioners state.

All of it is common practice, no source: sizes, trowels and waits as they are said on site.
"""

from __future__ import annotations

import unittest

from calm_basin.rules import TRADE, build_systems, drain_families

INCH = 25.4


class SystemValuesTest(unittest.TestCase):
    def test_edges(self) -> None:
        """Foam trays that drop into a lifted deck and rigid pans between joists are as thick as a
        3/4 in deck; a level-access former is 28 mm in all; a foam tray on a pour 1 in."""
        for name, edge in (
            ("drop-in-foam-tray", 0.75 * INCH),
            ("rigid-pan-between-joists", 0.75 * INCH),
            ("level-access-former-overboard", 28),
            ("foam-tray-poured-deck", INCH),
        ):
            self.assertAlmostEqual(build_systems()[name].former.edge_thickness, edge, msg=name)

    def test_decks(self) -> None:
        """A 3/4 in deck at 19.2 in does for the board tray on its plate, at 16 in for foam ones."""
        for name, deck, centres in (
            ("board-tray-steel-plate", 0.75, 19.2),
            ("foam-tray-poured-deck", 0.75, 16),
            ("drop-in-foam-tray", 0.75, 16),
        ):
            decks = [(one.deck, one.centres) for one in build_systems()[name].deck]
            self.assertTrue(
                any(
                    abs(a - deck * INCH) < 1e-6 and abs(b - centres * INCH) < 1e-6 for a, b in decks
                ),
                (name, decks),
            )

    def test_trowels_and_fixing(self) -> None:
        for name, words in (
            ("board-tray-steel-plate", ("3/4 × 3/4", "1/4 × 3/4 in V")),
            ("back-channel-slope-panels", ("1/4 × 3/8", "1/4 × 1/4")),
            ("single-slope-linear-base", ("1/2 × 1/2", "1/4 × 1/4")),
            ("one-piece-unit", ("1/4 or 3/8", "3/16")),
            ("rigid-pan-framed-pocket", ("screwed to the studs", "without sliding")),
            ("raised-zone-extension", ("not screwed",)),
            ("tray-slab-glued-ring", ("Two screws", "sealant all round")),
            ("drop-in-foam-tray", ("Walked out from the back",)),
        ):
            cards = build_systems()[name].bedding
            said = " ".join(f"{card.trowel} {card.fixing} {card.air}" for card in cards)
            for word in words:
                self.assertIn(word, said, name)

    def test_what_is_forgotten_kept_back_and_done_wrong(self) -> None:
        for name, words in (
            ("board-tray-steel-plate", ("2×6 round the perimeter", "four quarters", "short side")),
            (
                "back-channel-slope-panels",
                (
                    "Deck only",
                    "walked on while",
                    "loose enough to be lifted",
                    "on spacers",
                    "1/4 to 3/8 in on the steel",
                    "1 1/2 in at the channel's ends",
                    "wet in wet",
                ),
            ),
            ("channel-bed-bonded", ("pieces meet", "fitted dry over the outlet", "Timber as long")),
            ("channel-two-lift-clamped", ("pieces meet", "fitted dry over the outlet")),
            (
                "level-access-former-overboard",
                ("18 mm down", "bead at the trap", "3° (1:19)", "eased slightly"),
            ),
            ("cast-floor-two-zones", ("Backing ply", "bag round the cistern", "moisture reading")),
            ("one-piece-unit", ("8 ft long", "Fifty 1 1/4 in", "2 1/2 gal", "15 lb", "10 × 10 in")),
            ("tray-slab-glued-ring", ("from the inside at a mark 1 3/4 in down",)),
            ("drop-in-foam-tray", ("strip and sealant", "Marks on the studs")),
        ):
            said = build_systems()[name].model_dump_json()
            for word in words:
                self.assertIn(word, said, name)

    def test_a_hubs_bead_rests_on_foam_trays_only(self) -> None:
        for name, system in build_systems().items():
            waits = {(one.what, one.time) for one in system.waits}
            rests = any("hub's bead" in what for what, _ in waits)
            self.assertEqual(rests, name in ("foam-tray-poured-deck", "drop-in-foam-tray"), name)

    def test_laps_of_a_bonded_sheet(self) -> None:
        """Sheets 2 in, 4 in on a tray, 2 in up walls, at least 3 ft into the room."""
        told = [
            one.says
            for system in build_systems().values()
            for one in system.membrane
            if "Bonded sheet" in one.school
        ]
        self.assertGreater(len(told), 5)
        for says in told:
            for word in ("Laps 2 in", "4 in on a tray", "2 in up the walls", "3 ft into the room"):
                self.assertIn(word, says)

    def test_drains(self) -> None:
        """Riser tops and holes: gasket hub 5/8 in below and 6 1/2 in, in a lifted deck too; a hub
        in a base flush to 1/8 in above and 5 in; a glued ring 1 3/4 in below the slab."""
        for name, riser, hole in (
            ("drop-in-foam-tray", -5 / 8, 6.5),
            ("board-base-lifted-deck", -5 / 8, 6.5),
            ("foam-tray-poured-deck", -5 / 8, 6.5),
            ("single-slope-linear-base", 1 / 8, 5),
            ("tray-slab-glued-ring", -1.75, None),
        ):
            family = drain_families()[build_systems()[name].family]
            self.assertAlmostEqual(family.riser, riser * INCH, msg=name)
            if hole is not None:
                self.assertAlmostEqual(family.hole_width, hole * INCH, msg=name)
        ring = drain_families()["glued-ring-slab"]
        self.assertEqual(ring.with_access[-1], "Tray is bedded, and the ring twisted home on it")

    def test_how_true_a_floor_has_to_be(self) -> None:
        """1/8 in under one-piece units, which are shimmed so far and no more, and foam trays; 1/4
        in under a rigid pan, which may be shimmed up to it."""
        for name, out, packed, with_ in (
            ("one-piece", 1 / 8, 1 / 8, "shims"),
            ("foam-tray", 1 / 8, None, "adhesive"),
            ("rigid-pan", 1 / 4, 1 / 4, "shims"),
        ):
            base = TRADE.bases.by_id[name]
            self.assertAlmostEqual(base.value, out * INCH)
            self.assertEqual(base.packed_with, with_)
            if packed:
                self.assertAlmostEqual(base.packs, packed * INCH)

    def test_board_faced_formers_are_taped_at_their_joints_only(self) -> None:
        """No layer of membrane counts over the whole tray; the primer under one takes 30 min."""
        for name in ("level-access-former-overboard", "board-base-lifted-deck"):
            system = build_systems()[name]
            self.assertNotIn("membrane", {layer.name for layer in system.layers.shower})
            self.assertIn(("primer", "30 min"), {(one.what, one.time) for one in system.waits})
