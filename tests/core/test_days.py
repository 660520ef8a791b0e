"""The days of a job: hours that are worked, orders held against all of them, cures by hand."""

import csv
import io
import itertools
import json
import random
import unittest
from datetime import UTC, datetime, timedelta
from typing import Any

from click.testing import CliRunner
from icalendar import Calendar

from calm_basin.cli import main
from calm_basin.core.days.answer import span_text
from calm_basin.core.days.calendar import DAY, NeverError, WorkHours
from calm_basin.core.days.result import DaysResult
from calm_basin.core.days.schedule import CycleError, Slot, Task, floats, scheduled
from calm_basin.demo import demo_plans
from calm_basin.formats.days_files import write_calendar, write_days
from calm_basin.plan import Plan, PlanError, plan_from
from calm_basin.rules import TRADE
from tests.plans import answered, document, tray, wet_room
from tests.sweeps import each, some, sweep

WEEK = (True, True, True, True, True, False, False)
H = 60


def eight(first: int = 0, off: frozenset[int] = frozenset()) -> WorkHours:
    return WorkHours(8 * H, 16 * H, WEEK, first, off)


def planned(doc: Any = None, **days: Any) -> DaysResult:
    plan = plan_from((doc or document()) | {"version": 10, "days": days})
    found = answered(plan, parts=("days",)).days
    assert found is not None
    return found


class HoursTest(unittest.TestCase):
    def stepped(
        self, hours: WorkHours, moment: int, minutes: int, *, whole: bool
    ) -> tuple[int, int]:
        """The same by looking at every minute."""

        def works(at: int) -> bool:
            return hours.is_worked(at // DAY) and hours.begin <= at % DAY < hours.end

        at = moment
        while True:
            while not works(at):
                at += 1
            start, left = at, minutes
            while left:
                if works(at):
                    left -= 1
                elif whole and minutes <= hours.end - hours.begin:
                    break
                at += 1
            if not left:
                return start, at

    @sweep
    def test_work_stops_at_night_as_minute_by_minute(self) -> None:
        for seed in range(some(200)):
            chance = random.Random(seed)
            begin = chance.randrange(0, 20) * H
            end = min(begin + chance.choice((30, 95, 240, 480)), 24 * H)
            week = (*(chance.random() < 0.7 for _ in range(6)), True)
            off = frozenset(chance.sample(range(12), 3))
            hours = WorkHours(begin, end, week, chance.randrange(7), off)
            moment, minutes = chance.randrange(0, 5 * DAY), chance.randrange(1, 900)
            whole = chance.random() < 0.5
            self.assertEqual(
                hours.done(moment, minutes, whole=whole),
                self.stepped(hours, moment, minutes, whole=whole),
                (seed, moment, minutes),
            )

    def test_hours_that_never_come_are_said(self) -> None:
        with self.assertRaises(NeverError):
            WorkHours(480, 960, (False,) * 7).opens(0)


def ready(task: Task, slots: dict[str, Slot]) -> bool:
    return all(b in slots for b in (*task.after, *task.behind))


def may_begin(task: Task, slots: dict[str, Slot]) -> int:
    waited = [slots[b].free for b in task.after]
    return max([task.earliest, *waited, *(slots[b].end for b in task.behind)])


def every_order(
    tasks: list[Task], hours: WorkHours, fixed: dict[str, Slot] | None = None
) -> tuple[int, int]:
    """The best finish and days on site over all orders of the crew's tasks (brute force)."""
    known, there = {task.id: task for task in tasks}, fixed or {}
    best: tuple[int, int] | None = None
    crew_tasks = [task.id for task in tasks if task.who == "crew" and task.id not in there]
    busy = max([0, *(slot.end for one, slot in there.items() if known[one].who == "crew")])
    for order in itertools.permutations(crew_tasks):
        slots: dict[str, Slot] = dict(there)
        crew, left, broken = busy, list(order), False
        while len(slots) < len(tasks) and not broken:
            for task in tasks:
                if task.who != "crew" and task.id not in slots and ready(task, slots):
                    at = may_begin(task, slots)
                    start, end = hours.done(at, task.minutes, whole=task.whole)
                    slots[task.id] = Slot(start, end, end + task.wait)
                    break
            else:
                task = known[left.pop(0)] if left else tasks[0]
                if task.id in slots or not ready(task, slots):
                    broken = True
                    continue
                at = max(crew, may_begin(task, slots))
                start, end = hours.done(at, task.minutes, whole=task.whole)
                slots[task.id], crew = Slot(start, end, end + task.wait), end
        if broken:
            continue
        finish = max(slot.free for slot in slots.values())
        visits = {
            day
            for one, slot in slots.items()
            if known[one].who == "crew"
            for day in range(slot.start // DAY, (slot.end - 1) // DAY + 1)
            if hours.is_worked(day) or day == slot.start // DAY
        }
        if best is None or (finish, len(visits)) < best:
            best = (finish, len(visits))
    assert best is not None
    return best


def fewest(
    tasks: list[Task], hours: WorkHours, slots: dict[str, Slot], crew: int
) -> tuple[int, int]:
    """The fewest days on site, and then the earliest end (brute force)."""
    if len(slots) == len(tasks):
        own = [slot for task in tasks if task.who == "crew" for slot in [slots[task.id]]]
        days = {
            day
            for slot in own
            for day in range(slot.start // DAY, (slot.end - 1) // DAY + 1)
            if hours.is_worked(day)
        }
        return len(days), max(slot.free for slot in slots.values())
    for task in tasks:
        if task.who != "crew" and task.id not in slots and ready(task, slots):
            start, end = hours.done(may_begin(task, slots), task.minutes, whole=task.whole)
            return fewest(tasks, hours, {**slots, task.id: Slot(start, end, end + task.wait)}, crew)
    best = []
    for task in tasks:
        if task.who != "crew" or task.id in slots or not ready(task, slots):
            continue
        begin = max(crew, may_begin(task, slots))
        for later in range(5):
            at = begin if not later else max(begin, (begin // DAY + later) * DAY)
            start, end = hours.done(at, task.minutes, whole=task.whole)
            found = {**slots, task.id: Slot(start, end, end + task.wait)}
            best.append(fewest(tasks, hours, found, end))
    return min(best)


class OrderTest(unittest.TestCase):
    @sweep
    def test_no_order_is_done_sooner_or_with_fewer_days(self) -> None:
        several = 0
        for seed in range(some(200)):
            chance = random.Random(seed)
            count = chance.randrange(2, 7)
            tasks = [
                Task(
                    id=f"t{i}",
                    minutes=chance.choice((15, 60, 120, 300, 500)),
                    wait=chance.choice((0, 0, 90, 240, 840, 1440)),
                    after=tuple(f"t{j}" for j in range(i) if chance.random() < 0.35),
                    who=chance.choice(("crew", "crew", "crew", "plumber")),
                    whole=chance.random() < 0.5,
                    earliest=chance.choice((0, 0, 0, DAY, 3 * DAY)),
                    behind=tuple(f"t{j}" for j in range(i) if chance.random() < 0.15),
                )
                for i in range(count)
            ]
            hours = eight(chance.randrange(7), frozenset(chance.sample(range(9), 2)))
            made = scheduled(tasks, hours)
            self.assertTrue(made.proven)
            self.assertEqual((made.finish, made.visits), every_order(tasks, hours), seed)
            several += sum(task.who == "crew" for task in tasks) > 2
            # Some of it was done, a day later than it might have been.
            begun = sorted(made.slots, key=lambda one: made.slots[one].start)[: count // 2]
            fixed = {one: Slot(*(moment + DAY for moment in made.slots[one])) for one in begun}
            rest = scheduled(tasks, hours, fixed=fixed)
            self.assertEqual((rest.finish, rest.visits), every_order(tasks, hours, fixed), seed)
            self.assertEqual({one: rest.slots[one] for one in begun}, fixed)
        self.assertGreater(several, some(200) // 3)

    @sweep
    def test_no_order_and_no_day_left_out_takes_fewer_days_on_site(self) -> None:
        """Against every order with every task on each of the next days (brute force)."""
        fewer = 0
        for seed in range(some(120)):
            chance = random.Random(seed)
            count = chance.randrange(2, 5)
            tasks = [
                Task(
                    id=f"t{i}",
                    minutes=chance.choice((30, 120, 300)),
                    wait=chance.choice((0, 0, 840, 1440)),
                    after=tuple(f"t{j}" for j in range(i) if chance.random() < 0.4),
                    who=chance.choice(("crew", "crew", "crew", "plumber")),
                    earliest=chance.choice((0, 0, DAY, 3 * DAY)),
                )
                for i in range(count)
            ]
            hours = eight(chance.randrange(7))
            made = scheduled(tasks, hours, goal="fewest days")
            self.assertTrue(made.proven)
            self.assertEqual((made.visits, made.finish), fewest(tasks, hours, {}, 0), seed)
            first = scheduled(tasks, hours)
            self.assertLessEqual(made.visits, first.visits)
            self.assertGreaterEqual(made.finish, first.finish)
            fewer += made.visits < first.visits
        self.assertGreater(fewer, some(120) // 12)

    def test_a_day_that_is_far_off_is_reached_at_once(self) -> None:
        far = 60_000 * DAY
        tasks = [Task(f"t{i}", 60, 0, (), earliest=far * (i % 2)) for i in range(6)]
        made = scheduled(tasks, eight(), goal="fewest days")
        self.assertEqual((made.visits, made.proven), (1, True))
        self.assertGreaterEqual(min(slot.start for slot in made.slots.values()), far)
        # Waits of months between appointments of years: answered, if not proven.
        long = [
            Task(f"t{i}", 60, 2000 * H, (f"t{i - 1}",) if i % 3 else (), earliest=i * 400 * DAY)
            for i in range(30)
        ]
        self.assertEqual(len(scheduled(long, eight(), goal="fewest days").slots), 30)

    def test_sixty_tasks_are_ordered_and_none_before_its_time(self) -> None:
        chance = random.Random(3)
        tasks = [
            Task(
                f"t{i}",
                chance.choice((30, 120, 240)),
                chance.choice((0, 0, 240, 1440)),
                tuple(f"t{j}" for j in range(max(0, i - 4), i) if chance.random() < 0.5),
            )
            for i in range(60)
        ]
        made = scheduled(tasks, eight())
        self.assertEqual(len(made.slots), 60)
        for task in tasks:
            for before in task.after:
                self.assertGreaterEqual(made.slots[task.id].start, made.slots[before].free)
        busy = sorted((slot.start, slot.end) for slot in made.slots.values())
        for (_, end), (start, _) in itertools.pairwise(busy):
            self.assertGreaterEqual(start, end)

    def test_tasks_that_wait_for_each_other_are_named(self) -> None:
        ring = [Task("a", 60, 0, ("c",)), Task("b", 60, 0, ("a",)), Task("c", 60, 0, ("b",))]
        with self.assertRaises(CycleError) as caught:
            scheduled(ring, eight())
        self.assertEqual(set(caught.exception.ring), {"a", "b", "c"})

    def test_what_may_wait_is_told_by_how_much(self) -> None:
        tasks = [
            Task("bed", 120, 14 * H, ()),
            Task("boards", 120, 0, ()),
            Task("membrane", 60, 0, ("bed", "boards")),
        ]
        made = scheduled(tasks, eight())
        spare = floats(tasks, made)
        # The bed is laid first, 8 to 10, and rests until midnight; boards meanwhile, 10 to 12.
        self.assertEqual(made.slots["boards"].start, 10 * H)
        self.assertEqual(made.slots["membrane"].start, DAY + 8 * H)
        self.assertEqual(spare["boards"], DAY + 8 * H - 12 * H)
        self.assertEqual(spare["bed"], 8 * H)
        self.assertEqual(spare["membrane"], 0)


class CureTest(unittest.TestCase):
    def test_a_bed_on_friday_rests_over_the_weekend(self) -> None:
        # Laid on Friday from 13:00 to 16:00, overnight is over on Saturday at 6:00; nobody works
        # before Monday at 8:00.
        tasks = [Task("bed", 3 * H, 14 * H, ()), Task("membrane", 2 * H, 0, ("bed",))]
        made = scheduled(tasks, eight(first=4), begin=13 * H)
        self.assertEqual(made.slots["bed"], Slot(13 * H, 16 * H, 30 * H))
        self.assertEqual(made.slots["membrane"].start, 3 * DAY + 8 * H)

    def test_from_plumbing_to_the_second_coat_in_a_day_and_tile_the_next(self) -> None:
        """Benchmark of the trade (common practice, no source), walls set at once for weights."""
        usual = TRADE.tasks.tasks
        coat = round(usual["first_coat"].wait * H)
        tasks = [
            Task("plumb", 2 * H, 0, (), "plumber"),
            Task("tray", 90, 0, ("plumb",), whole=True),
            Task("first", 90, coat, ("tray",), whole=True),
            Task("second", 45, round(usual["second_coat"].wait * H), ("first",), whole=True),
            Task("tile", 4 * H, 0, ("second",)),
        ]
        made = scheduled(tasks, WorkHours(8 * H, 990, WEEK))
        self.assertEqual(made.slots["second"].end // DAY, 0)
        self.assertEqual(made.slots["tile"].start, DAY + 8 * H)
        self.assertEqual(made.visits, 2)

    def test_areas_and_warmth_are_told_in_the_units_of_the_job(self) -> None:
        found = planned(document() | {"display": {"length": "in"}}, temperature=10)
        self.assertEqual(found.warmth_text, "10 °C (50 °F)")
        tiled = next(slot for slot in found.tasks if slot.task == "tile_room")
        self.assertIn("sq ft", next(one.text for one in tiled.why.inputs if one.name == "area"))

    def test_cold_slows_cures_and_what_is_typed_counts(self) -> None:
        wait = {slot.task: slot.free - slot.end for slot in planned().tasks}
        cold = {slot.task: slot.free - slot.end for slot in planned(temperature=10).tasks}
        typed = {
            slot.task: slot.free - slot.end for slot in planned(temperature=10, slower=1.5).tasks
        }
        for task, minutes in each(wait.items(), least=8):
            self.assertEqual(cold[task], 2 * minutes)
            self.assertEqual(typed[task], round(1.5 * minutes))
        self.assertEqual(planned(temperature=30).slower, 1.0)


class PlanTest(unittest.TestCase):
    def whole(self, plan: Plan, found: DaysResult) -> None:
        slots = {slot.task: slot for slot in found.tasks}
        self.assertEqual(len(slots), len(found.tasks))
        for slot in found.tasks:
            self.assertLess(slot.start, slot.end)
            self.assertGreaterEqual(slot.start % DAY, found.begin)
            for before in slot.after:
                self.assertGreaterEqual(slot.start, slots[before].free, (slot.task, before))
            self.assertTrue(slot.why.source and slot.why.inputs)
        crew = sorted((slot.start, slot.end) for slot in found.tasks if slot.who == "crew")
        for (_, end), (start, _) in itertools.pairwise(crew):
            self.assertGreaterEqual(start, end)
        self.assertTrue(any(slot.critical for slot in found.tasks))
        self.assertEqual(found.finish, max(slot.free for slot in found.tasks))
        self.assertTrue(found.proven, plan.job.name)

    def test_every_demo_job_has_its_days(self) -> None:
        for plan in each(demo_plans(), least=8):
            found = answered(plan, parts=("days",)).days
            assert found is not None
            with self.subTest(job=plan.job.name):
                self.whole(plan, found)

    def test_tasks_follow_from_the_plan(self) -> None:
        bed = {slot.task for slot in planned().tasks}
        self.assertIn("bed", bed)
        self.assertIn("frame", bed)
        of_tray = {slot.task for slot in planned(document(former=tray())).tasks}
        self.assertIn("set_tray", of_tray)
        self.assertNotIn("bed", of_tray)
        self.assertIn("dry_fit", of_tray)
        zones = {slot.task for slot in planned(wet_room()).tasks}
        self.assertIn("rest_bed", zones)
        liquid = {slot.task for slot in planned(membrane="liquid").tasks}
        self.assertTrue({"first_coat", "second_coat"} <= liquid)
        self.assertNotIn("membrane_sheet", liquid)

    def test_the_outside_floor_is_tiled_first_and_the_shower_waits_for_no_adhesive(self) -> None:
        tasks = {slot.task: slot for slot in planned().tasks}
        self.assertGreaterEqual(tasks["tile_shower"].start, tasks["tile_room"].end)
        self.assertLess(tasks["tile_shower"].start, tasks["tile_room"].free)
        self.assertGreaterEqual(tasks["grout"].start, tasks["tile_room"].free)

    def test_walls_first_are_done_in_a_wait_or_no_later(self) -> None:
        after, before = planned(), planned(walls="walls first")
        self.assertLessEqual(before.finish, after.finish)
        walls = next(slot for slot in before.tasks if slot.task == "walls")
        self.assertEqual(walls.after, ())

    def test_days_off_and_hours_move_all_of_it(self) -> None:
        free = planned(start="2026-12-07")
        holiday = planned(start="2026-12-07", off=["2026-12-08", "2026-12-09"])
        self.assertGreater(holiday.finish, free.finish)
        self.assertEqual(free.days[0].text, "Mon 7 Dec")
        self.assertFalse(holiday.days[1].worked)
        self.assertEqual(holiday.days[1].tasks, ())
        self.assertLessEqual(planned(begin=6, end=20).finish, free.finish)

    def test_what_cannot_be_is_refused_by_its_field(self) -> None:
        for typed, path in (
            ({"begin": 9, "end": 9.25}, "/days/end"),
            ({"weekdays": []}, "/days/weekdays"),
            ({"start": "2026-02-30"}, "/days/start"),
            ({"start": "9999-12-31"}, "/days/start"),
            ({"off": ["2026-12-07", "2026-13-01"]}, "/days/off/1"),
            ({"slower": 0}, "/days/slower"),
            ({"agreed": [{"task": "plumb", "day": "2026-02-30"}]}, "/days/agreed/0/day"),
            ({"agreed": [{"task": "plumb", "day": "2026-02-20"}] * 2}, "/days/agreed/1/task"),
            ({"temperature": "warm"}, "/days/temperature"),
        ):
            with self.subTest(typed), self.assertRaises(PlanError) as caught:
                planned(**typed)
            self.assertEqual(caught.exception.problems[0].path, path)

    def test_a_day_that_was_agreed_moves_what_follows_or_is_said_to_be_too_early(self) -> None:
        free = {slot.task: slot for slot in planned(start="2026-12-07").tasks}
        self.assertEqual(free["plumb"].agreed_text, "day to be agreed")
        self.assertEqual(free["bed"].agreed_text, "")
        later = {
            slot.task: slot
            for slot in planned(
                start="2026-12-07",
                agreed=[
                    {"task": "plumb", "day": "2026-12-10"},
                    {"task": "flood", "day": "2026-12-08"},
                ],
            ).tasks
        }
        self.assertEqual(later["plumb"].start, 3 * DAY + 8 * H)
        self.assertEqual(later["plumb"].agreed_text, "agreed for Thu 10 Dec")
        self.assertGreater(later["bed"].start, free["bed"].start)
        self.assertIn("agreed for Tue 8 Dec, cannot begin before", later["flood"].agreed_text)
        # However far off: it is on the list, and written into a calendar.
        far = planned(start="2026-12-07", agreed=[{"task": "plumb", "day": "2199-12-30"}])
        shown = {task for day in far.days for task in day.tasks}
        self.assertEqual(shown, {slot.task for slot in far.tasks})
        made = datetime(2026, 12, 1, tzinfo=UTC)
        self.assertTrue(write_calendar(far, job="x", uid="y", first="2026-12-07", made=made))
        # Without a first day there is no day to count from.
        none = planned(agreed=[{"task": "plumb", "day": "2026-12-10"}])
        said = next(slot.agreed_text for slot in none.tasks if slot.task == "plumb")
        self.assertIn("once there is a first one", said)

    def test_fewest_days_on_site_may_end_later_and_never_take_more_days(self) -> None:
        own = [{"id": f"own_{i}", "name": f"Paint {i}", "hours": 0.5} for i in (1, 2)]
        agreed = [{"task": "own_1", "day": "2026-12-28"}, {"task": "own_2", "day": "2027-01-11"}]
        typed = {"start": "2026-12-07", "own": own, "agreed": agreed}
        first, fewest = planned(**typed), planned(**typed, goal="fewest days")
        self.assertLess(fewest.visits, first.visits)
        self.assertGreaterEqual(fewest.finish, first.finish)
        for plan in demo_plans():
            found = [
                answered(
                    plan.model_copy(update={"days": plan.days.model_copy(update={"goal": goal})}),
                    parts=("days",),
                ).days
                for goal in ("done first", "fewest days")
            ]
            assert found[0] is not None and found[1] is not None
            self.assertLessEqual(found[1].visits, found[0].visits)

    def test_one_day_a_week_takes_as_many_weeks(self) -> None:
        usual, mondays = planned(), planned(weekdays=[0])
        self.assertGreaterEqual(mondays.finish, (mondays.visits - 1) * 7 * DAY)
        self.assertGreater(mondays.finish, usual.finish)
        self.assertEqual(span_text(90), "1.5 h")


MONDAY = "2026-12-07"


def done(task: str, began: str, ended: str | None = None, signed: str = "") -> dict[str, Any]:
    """What was done on days of that week, such as ``08T13:00``."""
    return {
        "task": task,
        "began": f"2026-12-{began}",
        "ended": f"2026-12-{ended}" if ended else None,
        "signed": signed,
    }


class LiftTest(unittest.TestCase):
    def test_a_bed_in_two_lifts_has_a_lower_one_first(self) -> None:
        """Overnight each (common practice, no source)."""
        lower = {"least_thickness": 15, "membrane": 1}
        for lift in (None, lower):
            doc = document(former={"kind": "bed", "least_thickness": 30, "lower": lift})
            tasks = [slot.task for slot in planned(doc).tasks]
            self.assertEqual("lower_lift" in tasks, lift is not None)
            if lift is not None:
                self.assertLess(tasks.index("lower_lift"), tasks.index("bed"))


class WallTileTest(unittest.TestCase):
    """Floor, cure, cover, walls; or walls, floor, last row over its joint (common practice, no
    source)."""

    def test_both_orders_of_work(self) -> None:
        wall = {"length": 300, "width": 600, "joint": 3}
        doc = document() | {"tiling": {"wall": wall}}
        for school, order in (
            ("floor first", ["tile_room", "tile_shower", "cover_floor", "tile_walls", "grout"]),
            ("walls first", ["tile_walls", "tile_room", "tile_shower", "last_row", "grout"]),
        ):
            result = planned(doc, tile=school)
            slots = {slot.task: slot for slot in result.tasks}
            self.assertEqual([task for task in slots if task in order], order)
            self.assertGreaterEqual(slots["grout"].start, slots[order[3]].free)
        for task in ("tile_walls", "cover_floor", "last_row"):
            self.assertNotIn(task, [slot.task for slot in planned().tasks])


class WorkedTest(unittest.TestCase):
    """Real starts and ends, hold points, tasks of one's own, and what was first agreed."""

    def test_what_was_done_later_moves_the_rest(self) -> None:
        usual = planned(start=MONDAY)
        late = planned(start=MONDAY, worked=[done("open_deck", "09T10:00", "09T15:00")])
        slots = {slot.task: slot for slot in late.tasks}
        opened = slots.pop("open_deck")
        self.assertEqual((opened.start, opened.end), (2 * DAY + 10 * H, 2 * DAY + 15 * H))
        self.assertEqual((opened.state, opened.critical, opened.spare), ("done", False, 0))
        for slot in each(slots.values(), least=8):
            self.assertGreaterEqual(slot.start, 2 * DAY + 15 * H)
            self.assertEqual(slot.state, "to come")
        self.assertGreater(late.finish, usual.finish)

    def test_a_cure_counts_from_when_it_was_really_laid(self) -> None:
        found = planned(start=MONDAY, worked=[done("bed", "08T13:00", "08T18:30")])
        bed = next(slot for slot in found.tasks if slot.task == "bed")
        self.assertEqual(bed.free, DAY + 18 * H + 30 + 14 * H)
        begun = planned(start=MONDAY, worked=[done("bed", "08T13:00")])
        bed = next(slot for slot in begun.tasks if slot.task == "bed")
        # Three hours of hands at the usual pace, from one o'clock.
        self.assertEqual((bed.state, bed.end), ("begun", DAY + 16 * H))

    def test_a_hold_point_stops_what_is_behind_it_until_it_is_signed(self) -> None:
        test = done("leak_test", "07T11:00", "07T11:15")
        unsigned = planned(start=MONDAY, worked=[test])
        signed = planned(start=MONDAY, worked=[test | {"signed": "AB"}])
        state = {slot.task: slot.state for slot in unsigned.tasks}
        self.assertEqual(state["leak_test"], "begun")
        self.assertEqual(
            [(s.state, s.signed) for s in signed.tasks if s.task == "leak_test"], [("done", "AB")]
        )
        self.assertEqual(signed.warned, ())
        past = planned(start=MONDAY, worked=[test, done("frame", "07T12:00")])
        self.assertIn("before “Leak test of the waste” was signed", past.warned[0])

    def test_a_task_of_ones_own_stands_between_those_it_names(self) -> None:
        own = {
            "id": "own_1",
            "name": "Scan the floor",
            "hours": 2,
            "wait": 5,
            "after": ["open_deck"],
            "before": ["plumb"],
        }
        slots = {slot.task: slot for slot in planned(start=MONDAY, own=[own]).tasks}
        mine = slots["own_1"]
        self.assertTrue(mine.own)
        self.assertEqual(mine.end - mine.start, 2 * H)
        self.assertGreaterEqual(mine.start, slots["open_deck"].free)
        self.assertGreaterEqual(slots["plumb"].start, mine.end + 5 * H)
        self.assertEqual(mine.why.source, "Typed for this job")

    def test_own_tasks_that_wait_for_each_other_are_named(self) -> None:
        one = {"id": "own_1", "name": "Paint", "after": ["own_2"]}
        other = {"id": "own_2", "name": "Sand", "after": ["own_1"]}
        found = planned(own=[one, other])
        self.assertEqual(found.tasks, ())
        self.assertIn("“Paint”", found.none_because)
        self.assertIn("“Sand”", found.none_because)
        around = {"id": "own_1", "name": "Paint", "after": ["grout"], "before": ["plumb"]}
        self.assertIn("“Paint”", planned(own=[around]).none_because)
        self.assertIn("“Grout”", planned(own=[around]).none_because)

    def test_a_link_to_a_task_that_the_plan_has_no_more_is_told(self) -> None:
        own = {"id": "own_1", "name": "Heat", "after": ["bed"]}
        self.assertEqual(planned(own=[own]).warned, ())
        of_tray = planned(document(former=tray()), own=[own])
        self.assertIn("tied to a task that this plan has not: bed", of_tray.warned[0])
        self.assertIn("own_1", {slot.task for slot in of_tray.tasks})

    def test_what_was_first_agreed_stays_and_the_difference_is_told(self) -> None:
        free, midnight = planned(start=MONDAY), datetime(2026, 12, 7)

        def moment(minutes: int) -> str:
            return f"{midnight + timedelta(minutes=minutes):%Y-%m-%dT%H:%M}"

        agreed = [
            {"task": slot.task, "begins": moment(slot.start), "ends": moment(slot.end)}
            for slot in free.tasks
        ]
        same = planned(start=MONDAY, first_agreed=agreed)
        self.assertEqual(same.first_text, "as first agreed")
        self.assertEqual({slot.first_text for slot in same.tasks}, {"as first agreed"})
        moved = planned(start="2026-12-14", first_agreed=agreed)
        self.assertEqual(moved.first_text, "7 days later than first agreed")
        sooner = planned(start="2026-11-30", first_agreed=agreed)
        self.assertEqual(sooner.first_text, "7 days earlier than first agreed")
        self.assertEqual(planned(start=MONDAY).first_text, "")

    def test_walls_at_once_keep_a_tray_down_and_do_not_wait_for_it(self) -> None:
        doc = document(former=tray())
        weights = {slot.task: slot for slot in planned(doc).tasks}
        at_once = {slot.task: slot for slot in planned(doc, tray="walls at once").tasks}
        self.assertGreaterEqual(weights["walls"].start, weights["set_tray"].free)
        self.assertLess(at_once["walls"].start, at_once["set_tray"].free)
        self.assertGreaterEqual(at_once["membrane_sheet"].start, at_once["set_tray"].free)

    def test_plumbing_last_comes_from_below_before_the_membrane(self) -> None:
        last = {slot.task: slot for slot in planned(plumbing="last").tasks}
        self.assertGreaterEqual(last["plumb"].start, last["falls_check"].end)
        self.assertGreaterEqual(last["membrane_sheet"].start, last["leak_test"].end)

    def test_what_cannot_have_been_is_refused_by_its_field(self) -> None:
        own = {"id": "own_1", "name": "Paint"}
        for typed, path in (
            ({"worked": [done("bed", "08T13:00", "08T12:00")]}, "/days/worked/0/ended"),
            ({"worked": [{"task": "bed", "began": "2026-02-30T08:00"}]}, "/days/worked/0/began"),
            ({"worked": [{"task": "bed", "began": "2026-02-20T25:00"}]}, "/days/worked/0/began"),
            ({"worked": [done("bed", "08T13:00")] * 2}, "/days/worked/1/task"),
            ({"own": [own, own]}, "/days/own/1/id"),
            ({"own": [own | {"hours": 0}]}, "/days/own/0/hours"),
            ({"own": [own | {"id": "bed"}]}, "/days/own/0/id"),
        ):
            with self.subTest(typed), self.assertRaises(PlanError) as caught:
                planned(**typed)
            self.assertEqual(caught.exception.problems[0].path, path)


class ReferenceTest(unittest.TestCase):
    """Waits as they are met in the trade (common practice, no source)."""

    def test_waits_are_those_of_the_trade(self) -> None:
        usual = TRADE.tasks.tasks
        for task, hours in (
            ("set_tray", 4),
            ("first_coat", 1.5),
            ("membrane_sheet", 24),
            ("grate", 24),
            ("flood", 24),
        ):
            self.assertEqual(usual[task].wait, hours)
        for task in (
            "leak_test",
            "dry_fit",
            "falls_check",
            "flood_read",
            "level_check",
            "final_test",
        ):
            self.assertTrue(usual[task].hold, task)


class FilesTest(unittest.TestCase):
    def test_a_calendar_read_again_moves_the_same_entries(self) -> None:
        """Read by the library icalendar (RFC 5545)."""
        made = datetime(2026, 12, 1, 9, tzinfo=UTC)
        plan = plan_from(document() | {"version": 10, "days": {"start": "2026-12-07"}})
        seen: list[dict[str, Any]] = []
        for begin in (8.0, 9.0):
            later = plan.model_copy(update={"days": plan.days.model_copy(update={"begin": begin})})
            found = answered(later, parts=("days",)).days
            assert found is not None
            text = write_calendar(found, job="A, b; c\nd", uid="abc", first="2026-12-07", made=made)
            (calendar,) = Calendar.from_ical(text, multiple=True)
            events = {str(one["uid"]): one for one in calendar.walk("VEVENT")}
            self.assertEqual(len(events), len(found.tasks))
            seen.append(events)
            for slot in found.tasks:
                event = events[f"{slot.task}.abc@calm-basin"]
                start = datetime(2026, 12, 7) + timedelta(minutes=slot.start)
                self.assertEqual(event["dtstart"].dt, start)
                self.assertEqual(
                    event["dtend"].dt - start, timedelta(minutes=slot.end - slot.start)
                )
                self.assertIn(slot.name, str(event["summary"]))
                self.assertEqual(f"{start:%H:%M}", slot.begin_text)
        self.assertEqual(set(seen[0]), set(seen[1]))
        self.assertNotEqual(
            [str(one["dtstart"].dt) for one in seen[0].values()],
            [str(one["dtstart"].dt) for one in seen[1].values()],
        )

    def test_the_table_and_the_command_say_what_the_answer_says(self) -> None:
        found = planned(start="2026-12-07")
        rows = list(csv.DictReader(io.StringIO(write_days(found))))
        self.assertEqual([row["task"] for row in rows], [slot.name for slot in found.tasks])
        for row, slot in zip(rows, found.tasks, strict=True):
            self.assertEqual((row["day"], row["begins"]), (slot.day_text, slot.begin_text))
            self.assertEqual(row["wait"], slot.wait_text)
        doc = json.dumps(document() | {"version": 10, "days": {"start": "2026-12-07"}})
        told = CliRunner().invoke(main, ["solve", "-", "--with", "days", "--text"], input=doc)
        self.assertEqual(told.exit_code, 0, told.output)
        for slot in found.tasks:
            self.assertIn(f"{slot.day_text}, {slot.begin_text} to {slot.end_text}", told.output)
