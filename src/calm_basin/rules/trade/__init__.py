"""Values of the trade that hang on no rule set: a record a table, in house units beside the text as
it is written and where it is from."""

from __future__ import annotations

from functools import cached_property

from calm_basin.rules.trade.bases import Bases
from calm_basin.rules.trade.heating import Heating
from calm_basin.rules.trade.membrane import Membrane
from calm_basin.rules.trade.packs import Care, Kit, Order
from calm_basin.rules.trade.people import People
from calm_basin.rules.trade.pipes import Pipes
from calm_basin.rules.trade.practice import Practice
from calm_basin.rules.trade.site_tests import SiteTests
from calm_basin.rules.trade.tasks import Tasks
from calm_basin.rules.trade.tiling import Tiling
from calm_basin.rules.trade.timber import Timber
from calm_basin.rules.trade.walls import Walls
from calm_basin.rules.trade.ways import WayDays


class Trade:
    """All tables; each is read when it is first asked for."""

    @cached_property
    def practice(self) -> Practice:
        return Practice.read("practice")

    @cached_property
    def tiling(self) -> Tiling:
        return Tiling.read("tiling")

    @cached_property
    def pipes(self) -> Pipes:
        return Pipes.read("pipes")

    @cached_property
    def bases(self) -> Bases:
        return Bases.read("bases")

    @cached_property
    def people(self) -> People:
        return People.read("people")

    @cached_property
    def timber(self) -> Timber:
        return Timber.read("timber")

    @cached_property
    def walls(self) -> Walls:
        return Walls.read("walls")

    @cached_property
    def membrane(self) -> Membrane:
        return Membrane.read("membrane")

    @cached_property
    def heating(self) -> Heating:
        return Heating.read("heating")

    @cached_property
    def site_tests(self) -> SiteTests:
        return SiteTests.read("tests")

    @cached_property
    def tasks(self) -> Tasks:
        return Tasks.read("days")

    @cached_property
    def ways(self) -> WayDays:
        return WayDays.read("ways")

    @cached_property
    def order(self) -> Order:
        return Order.read("order")

    @cached_property
    def kit(self) -> Kit:
        return Kit.read("kit")

    @cached_property
    def care(self) -> Care:
        return Care.read("care")


TRADE = Trade()
