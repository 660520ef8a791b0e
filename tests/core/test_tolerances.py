"""Every tolerance stands on one page, with its reason."""

import ast
import unittest
from pathlib import Path

import calm_basin
from calm_basin import tolerances
from tests.sweeps import each

PAGE = Path(tolerances.__file__)
HOUSE = Path(calm_basin.__file__).parent


def constants(file: Path) -> set[str]:
    """What is named at the head of a module."""
    heads = [
        node for node in ast.parse(file.read_text("utf-8")).body if isinstance(node, ast.Assign)
    ]
    named = (name for node in heads for target in node.targets for name in ast.walk(target))
    return {name.id for name in named if isinstance(name, ast.Name)}


class PageTest(unittest.TestCase):
    def test_each_has_its_reason_and_is_used(self) -> None:
        body = ast.parse(PAGE.read_text("utf-8")).body
        named = [i for i, node in enumerate(body) if isinstance(node, ast.Assign)]
        for i in each(named, 20):
            said = body[i + 1]
            self.assertTrue(isinstance(said, ast.Expr) and isinstance(said.value, ast.Constant))
        code = [
            file.read_text("utf-8")
            for folder in ("core", "plan")
            for file in (HOUSE / folder).rglob("*.py")
        ]
        for name in constants(PAGE):
            self.assertTrue(any(name in text for text in code), name)

    def test_none_goes_by_the_same_name_elsewhere(self) -> None:
        """What is called as a tolerance is that one and no other."""
        names, looked = constants(PAGE), 0
        for folder in ("core", "plan", "rules", "formats", "web", "store"):
            for file in (HOUSE / folder).rglob("*.py"):
                self.assertFalse(constants(file) & names, file)
                looked += 1
        self.assertGreater(looked, 300)

    def test_they_are_in_the_order_in_which_they_decide(self) -> None:
        """What shapes are off by is finer than what is inside, that finer than what is touched."""
        finer = (
            tolerances.ROUNDED,
            tolerances.SAME_PLACE,
            tolerances.HAIR,
            tolerances.UNSEEN,
            tolerances.ONE_CORNER,
            tolerances.ON_EDGE,
            tolerances.SIDE_AT_WALL,
            tolerances.NEXT_TO,
            tolerances.AT_WALL,
            tolerances.ONE_PLACE,
        )
        self.assertEqual(list(finer), sorted(set(finer)))


if __name__ == "__main__":
    unittest.main()
