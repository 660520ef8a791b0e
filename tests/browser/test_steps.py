"""Each step of the work on the real interface: every control does what it says."""

import json
import math
import re
from typing import Any

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from calm_basin.demo import demo_plans
from calm_basin.plan import Plan, plan_from
from calm_basin.plan.edits.additions import add
from tests.browser.case import BrowserCase
from tests.plans import answered, channel, document, moved, point


class StepCase(BrowserCase):
    def plan(self) -> Any:
        """The plan as it is saved, once it is."""
        self.saved()
        return self.server.call("GET", f"/jobs/{self.job_id}")["plan"]

    def begin(self, step: str, **shower: Any) -> None:
        self.job_id = self.job(document(**shower), step)

    def aside(self) -> str:
        return self.one("aside").text

    def says(self, text: str) -> None:
        self.until(lambda: text in self.aside(), f"the panel says {text}")

    def all(self, css: str) -> list[WebElement]:
        return self.driver.find_elements(By.CSS_SELECTOR, css)

    def radio(self, label: str) -> None:
        self.settled()
        box = self.one(f'input[type="radio"][aria-label="{label}"]')
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", box)
        box.click()

    def unfold(self, nth: int) -> None:
        """Open the list of corners of the room (0) or the shower (1)."""
        folds = self.driver.find_elements(By.XPATH, '//summary[contains(., "Corners")]')
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", folds[nth])
        folds[nth].click()

    def drag(self, handle: WebElement, dx: int, dy: int) -> None:
        """Drag a handle of the newest answer; what follows waits for the answer to it."""
        chain = ActionChains(self.driver, duration=60).click_and_hold(handle)
        chain.move_by_offset(dx // 2, dy // 2).move_by_offset(dx - dx // 2, dy - dy // 2)
        chain.release().perform()


class RoomStepTest(StepCase):
    def test_a_corner_is_added_and_taken_away_and_sides_keep_their_things(self) -> None:
        self.begin("room", entries=[1])
        self.unfold(1)
        self.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Add a corner after corner 1"]')[
            1
        ].click()
        plan = self.plan()
        self.assertEqual(plan["shower"]["outline"][1], [750, 900])
        self.assertEqual(plan["shower"]["entries"], [2])
        self.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Remove corner 2"]')[-1].click()
        plan = self.plan()
        self.assertEqual(len(plan["shower"]["outline"]), 4)
        self.assertEqual(plan["shower"]["entries"], [1])

    def test_the_shower_stays_at_its_wall_when_it_grows(self) -> None:
        self.begin("room")
        fields = self.driver.find_elements(
            By.XPATH, '//input[@id=//label[.="Depth, bottom to top"]/@for]'
        )
        fields[1].click()
        fields[1].send_keys("1000", Keys.ENTER)
        self.assertEqual(self.plan()["shower"]["outline"][0], [0, 800])

    def test_a_corner_is_dragged_and_snaps_to_the_wall(self) -> None:
        self.begin("room", outline=[[0, 900], [1500, 900], [1500, 1700], [0, 1700]])
        self.drag(self.one('[data-handle="shower-2"]'), 0, -16)
        x, y = self.plan()["shower"]["outline"][2]
        self.assertEqual((x, y), (1500, 1800))

    def test_the_shower_goes_whole_with_its_drain_and_stands_against_walls(self) -> None:
        bar = {"name": "bar", "kind": "bar", "centre": [300, 1760], "width": 300, "length": 40}
        doc = document()
        doc["room"]["fixtures"] = [bar | {"turn": 180}, bar | {"name": "far", "centre": [2200, 20]}]
        self.job_id = self.job(doc, "room")
        self.click("To the other side")
        plan = self.plan()
        self.assertEqual(
            sorted(plan["shower"]["outline"]), [[900, 900], [900, 1800], [2400, 900], [2400, 1800]]
        )
        self.assertEqual(plan["shower"]["drain"]["centre"], [1650, 1350])
        self.assertEqual(
            [one["centre"] for one in plan["room"]["fixtures"]], [[2100, 1760], [2200, 20]]
        )
        self.click("Undo")
        self.assertEqual(self.plan()["shower"]["outline"], doc["shower"]["outline"])
        # Dragged nearly to the right wall it stands against it, and stays at the one behind it.
        handle = self.one('[data-handle="shower"]')
        scale = self.driver.execute_script(
            "const box = (key) => document.querySelector(`[data-handle='${key}'] .ring`)"
            ".getBoundingClientRect().x;"
            "return (box('shower-1') - box('shower-0')) / 1500"
        )
        self.drag(handle, round(870 * scale), round(25 * scale))
        plan = self.plan()
        self.assertEqual(
            plan["shower"]["outline"], [[900, 900], [2400, 900], [2400, 1800], [900, 1800]]
        )
        self.assertEqual(plan["shower"]["drain"]["centre"], [1650, 1350])
        self.assertEqual(plan["room"]["fixtures"][0]["centre"], [1200, 1760])
        # With the keys it goes a step, as far as it is told, and with what belongs to it.
        self.one('[data-handle="shower"]').send_keys(Keys.ARROW_LEFT)
        plan = self.plan()
        self.assertEqual(plan["shower"]["outline"][0], [899, 900])
        self.assertEqual(plan["room"]["fixtures"][0]["centre"], [1199, 1760])

    def test_in_a_room_that_is_turned_the_keys_lead_the_shower_along_its_walls(self) -> None:
        doc = moved(document(), turn=23.7)
        self.job_id = self.job(doc, "room")
        handle = self.one('[data-handle="shower"]')
        for key, (dx, dy) in ((Keys.ARROW_RIGHT, (1, 0)), (Keys.ARROW_DOWN, (1, -1))):
            handle.send_keys(key)
            corner = complex(*self.plan()["shower"]["outline"][0])
            turned = complex(0, 900) + complex(dx, dy)
            wanted = turned * complex(math.cos(math.radians(23.7)), math.sin(math.radians(23.7)))
            self.assertAlmostEqual(abs(corner - wanted), 0, places=2)

    def test_what_a_side_is_called_stands_on_the_chart_and_at_its_button(self) -> None:
        self.begin("drain")
        chart = self.one("[data-zoom]").text
        for name in ("side 2 · right · 900", "side 3 · back · 1500", "side 4 · left · 900"):
            self.assertIn(name, chart)
            self.button(name.removeprefix("side "))
        # The whole room has its walls by their names, and the way back.
        self.click("The whole room")
        self.until(lambda: "wall 1 · 2400" in self.one("[data-zoom]").text, "the room's walls")
        self.click("The shower alone")
        self.until(lambda: "side 3 · back" in self.one("[data-zoom]").text, "the shower's sides")

    def test_floor_turns_to_a_slab_and_back(self) -> None:
        self.begin("room")
        self.radio("Slab")
        self.type("Slab thickness", "15 cm")
        floor = self.plan()["floor"]
        self.assertEqual((floor["kind"], floor["thickness"]), ("slab", 150))
        self.assertIn("slab", self.one('[data-figure="Recess needed"]').text)
        self.radio("Boards on joists")
        self.type("Deck thickness", "22")
        self.type("Joist direction, °", "0°")
        floor = self.plan()["floor"]
        self.assertEqual((floor["deck_thickness"], floor["direction"]), (22, 0))
        self.type("Joist direction, °", "north")
        self.until(lambda: "not a plain number" in self.one('[role="alert"]').text, "told why")

    def test_doors(self) -> None:
        self.begin("room")
        self.click("Remove door 1")
        self.until(lambda: "No door yet" in self.one("aside").text, "the empty state")
        self.click("Add a door")
        self.type("From the wall's first corner", "300")
        self.radio("Last")
        self.radio("Out")
        door = self.plan()["room"]["doors"][0]
        self.assertEqual(door["offset"], 300)
        self.assertEqual((door["hinge"], door["swing"]), ("last", "out"))
        self.type("Width", "3 m")
        self.until(lambda: "past the end" in self.one('[role="alert"]').text, "told why")


class FixtureTest(StepCase):
    def test_a_fixture_is_added_named_moved_and_taken_away(self) -> None:
        self.begin("room")
        self.click("basin")
        self.type("Name of fixture 1", "vanity")
        self.type("vanity, from wall 4", "2000")
        self.one('[data-handle="fixture-0"]').send_keys(Keys.ARROW_UP)
        fixture = self.plan()["room"]["fixtures"][0]
        self.assertEqual((fixture["name"], fixture["centre"][0]), ("vanity", 2000))
        self.assertIn("vanity", self.one("main svg").text)
        self.type("vanity, from wall 1", "5 m")
        self.settled()
        self.click("Back to the last good plan")
        self.click("Remove vanity")
        self.assertEqual(self.plan()["room"]["fixtures"], [])


class DrainStepTest(StepCase):
    def test_every_arrangement_is_one_press(self) -> None:
        self.begin("drain")
        seen = set()
        for code in ("back", "left", "right", "middle", "entry", "two", "even", "point"):
            self.one(f'[data-choice="{code}"]').click()
            self.until(
                lambda code=code: self.one(f'[data-choice="{code}"][aria-pressed="true"]'), code
            )
            shower = self.plan()["shower"]
            parts = ("drain", "second_drain", "fall")
            seen.add(json.dumps([shower[part] for part in parts]))
        self.assertEqual(len(seen), 8)

    def test_a_channel_is_moved_whole_and_by_its_ends(self) -> None:
        self.begin("drain", drain=channel(0, 1700, 1500, 1700))
        whole = self.one('[data-handle="drain"]')
        whole.send_keys(Keys.ARROW_UP)
        self.assertEqual(self.plan()["shower"]["drain"]["start"], [0, 1701])
        self.one('[data-handle="drain-end"]').send_keys(Keys.SHIFT, Keys.ARROW_LEFT)
        self.assertEqual(self.plan()["shower"]["drain"]["end"], [1490, 1701])
        self.drag(self.one('[data-handle="drain"]'), 0, -16)
        drain = self.plan()["shower"]["drain"]
        self.assertEqual((drain["start"][1], drain["end"][1]), (1765, 1765))

    def test_fields_are_nudged_with_the_arrow_keys(self) -> None:
        self.begin("drain")
        self.field("Centre, from wall 1").send_keys(Keys.ARROW_UP)
        self.field("Centre, from wall 1").send_keys(Keys.SHIFT, Keys.ARROW_UP)
        self.field("Planned fall").send_keys(Keys.ARROW_UP)
        plan = self.plan()
        self.assertEqual(plan["shower"]["drain"]["centre"], [750, 1361])
        self.assertAlmostEqual(plan["shower"]["fall"]["asked"], 1 / 59)

    def test_school_and_entries(self) -> None:
        self.begin("drain")
        self.reads("Drop at drain", "13.2 mm")
        self.radio("Plane run")
        self.reads("Drop at drain", "11.5 mm")
        self.assertTrue(self.button("1 · 1500").get_attribute("disabled"))
        self.click("2 · right · 900")
        self.assertEqual(self.plan()["shower"]["entries"], [0, 1])
        self.click("1 · 1500")
        self.assertEqual(self.plan()["shower"]["entries"], [1])

    def test_the_chart_draws_what_was_solved(self) -> None:
        self.begin("drain")
        answer = self.server.call("POST", "/solve", {"plan": document()})
        texts = [t.text for t in self.driver.find_elements(By.CSS_SELECTOR, "main svg text")]
        for plane in answer["surface"]["planes"]:
            self.assertIn(plane["text"], texts)
        soundings = [
            t.text.replace("\n", "")
            for t in self.driver.find_elements(By.CSS_SELECTOR, ".sounding text")
        ]
        known = {spot["text"].replace(".", "") for spot in answer["surface"]["spot_levels"]}
        self.assertGreater(len(soundings), 8)
        self.assertLessEqual(set(soundings), known)

    def test_typing_is_left_with_escape_and_undo_is_not_taken_from_it(self) -> None:
        self.begin("drain")
        field = self.field("Centre, from wall 1")
        field.click()
        field.send_keys("77")
        self.chord(Keys.CONTROL, "z")
        field.send_keys(Keys.ESCAPE)
        self.assertEqual(field.get_attribute("value"), "1350")
        self.assertEqual(self.plan()["shower"]["drain"]["centre"], [750, 1350])


class MarkTest(StepCase):
    def test_without_a_floor_nothing_that_hangs_on_it_is_called_clear(self) -> None:
        self.begin("depth", drain=point(1495, 1350))
        self.says("Drain & falls")
        marks = {step: self.one(f'[data-step="{step}"]').text for step in ("drain", "depth")}
        self.assertIn("must fix", marks["drain"])
        self.assertNotIn("fine", marks["depth"])
        self.assertNotIn("fine", self.one('[data-phase="Build"]').text)
        self.step("room")
        self.assertIn("fine", self.one('[data-step="room"]').text)


class WhyTest(StepCase):
    def test_the_recess_is_a_sum_and_each_part_leads_to_its_field(self) -> None:
        self.begin("drain", set_down=12)
        self.one('[data-figure="Recess needed"]').click()
        dialog = self.until(lambda: self.one("dialog[open]"), "the sum")
        named = [one.get_attribute("data-input") for one in self.all("dialog [data-input]")]
        self.assertEqual(named[0], "/shower/set_down")
        self.assertIn("/shower/former/least_thickness", named)
        self.assertIn("/room/layers/2/thickness", named)
        self.assertNotIn("base", dialog.text)
        for part, step in (("/shower/layers/1/thickness", "depth"), ("/shower/set_down", "depth")):
            if not self.all("dialog[open]"):
                self.one('[data-figure="Recess needed"]').click()
            self.one(f'dialog [data-input="{part}"] button').send_keys(Keys.ENTER)
            self.until(lambda step=step: self.one(f'[data-panel="{step}"]'), f"{step} is open")
            self.until(
                lambda part=part: (
                    self.driver.switch_to.active_element.get_attribute("data-field") == part
                ),
                f"the keyboard is at {part}",
            )

    def test_every_kind_of_part_in_every_job_has_its_field(self) -> None:
        seen: set[tuple[str, bool]] = set()
        for plan in demo_plans():
            figures = answered(plan).figures
            for figure in (figures.recess_needed, figures.step_at_entry):
                for part in figure.working.inputs:
                    # Layers are alike, and so are jobs but for a zone's own fields.
                    kind = (re.sub(r"\d+", "n", part.field), plan.shower.rest is not None)
                    if not part.field or kind in seen:
                        continue
                    seen.add(kind)
                    with self.subTest(job=plan.job.name, field=part.field):
                        self.reached(plan, figure.label, part.field)
        self.assertGreater(len(seen), 11)

    def reached(self, plan: Plan, figure: str, field: str) -> None:
        self.job(plan.model_dump(mode="json"), "water")
        self.one(f'[data-figure="{figure}"]').click()
        self.until(lambda: self.one(f'dialog [data-input="{field}"] button'), "the part").click()
        self.until(
            lambda: self.driver.switch_to.active_element.get_attribute("data-field") == field,
            f"the keyboard is at {field}",
            10,
        )

    def test_a_figure_that_goes_into_another_opens_in_place(self) -> None:
        self.begin("depth")
        self.view("Build-up")
        self.click("Drain FFL")
        self.until(lambda: self.one("dialog[open]"), "why")
        self.one('dialog [data-input="entry_level"] summary').click()
        room = self.one('dialog [data-input="entry_level"] [data-input="room_level"] summary')
        room.click()
        self.assertEqual(len(self.all('[data-input="room_level"] [data-input^="/room/layers"]')), 3)


class DepthStepTest(StepCase):
    def test_layers_are_named_added_and_taken_away(self) -> None:
        self.begin("depth")
        self.view("Build-up")
        self.choose("Kind of layer for the shower", "Heating cable mat")
        self.click("Add it to the shower")
        self.saved()
        self.assertEqual(
            self.plan()["shower"]["layers"][3],
            {
                "role": "cable",
                "name": "heating cable mat",
                "thickness": 3,
                "least": 2,
                "most": 6,
            },
        )
        # Its thickness is only usual, until it is typed.
        self.assertIn("/shower/layers/3/thickness", self.plan()["assumed"])
        # It goes over the membrane, and what is only assumed of it goes along.
        self.click("Move heating cable mat up")
        self.saved()
        names = [layer["name"] for layer in self.plan()["shower"]["layers"]]
        self.assertEqual(names, ["tile", "adhesive", "heating cable mat", "membrane"])
        self.assertIn("/shower/layers/2/thickness", self.plan()["assumed"])
        self.click("Undo")
        self.saved()
        self.type("Shower, from the tile down: name of layer 4", "heating mat")
        self.type("Shower, from the tile down: thickness of heating mat", "3")
        self.saved()
        self.assertNotIn("/shower/layers/3/thickness", self.plan()["assumed"])
        self.reads("Recess needed", "17.3 mm")
        self.click("Remove heating mat")
        self.reads("Recess needed", "14.3 mm")

    def test_a_layer_of_any_name_counts_as_what_is_said(self) -> None:
        self.begin("depth")
        self.view("Build-up")
        before = len(self.plan()["shower"]["layers"])
        self.click("Add it to the shower")
        self.saved()
        self.choose("What new layer counts as", "tile")
        self.saved()
        self.assertEqual(self.plan()["shower"]["layers"][before]["role"], "tile")
        # It can be taken back at once; one that came from the list is not asked.
        self.choose("What new layer counts as", "its thickness alone")
        self.saved()
        self.assertEqual(self.plan()["shower"]["layers"][before]["role"], "other")
        asked = 'select[aria-label$="counts as"]'
        self.assertEqual(len(self.all(asked)), 1)
        # Once it is left as tile nothing is asked of it, wherever it is put; nor of another.
        self.choose("What new layer counts as", "tile")
        self.saved()
        for _ in range(before):
            self.click("Move new layer up")
            self.saved()
            self.assertEqual(len(self.all(asked)), 0)
        self.assertEqual(self.plan()["shower"]["layers"][0]["role"], "tile")

    def test_tray_instead_of_bed(self) -> None:
        self.begin("depth")
        self.radio("Preformed tray")
        self.reads("Recess needed", "14 mm")
        self.type("Set-down at the entry", "4")
        self.reads("Step at entry", "4 mm down")
        self.reads("Recess needed", "18 mm")

    def test_a_way_is_put_into_the_plan_and_levels_say_why(self) -> None:
        self.begin("depth", former={"kind": "bed", "least_thickness": 30})
        self.until(lambda: "short" in self.one('[data-figure="Recess needed"]').text, "short")
        self.view("Options")
        self.saved()
        self.one('[data-way="raise_room"] button').click()
        self.saved()
        self.until(lambda: "short" not in self.one('[data-figure="Recess needed"]').text, "enough")
        self.assertEqual(len(self.plan()["room"]["layers"]), 4)
        self.view("Build-up")
        self.click("Room FFL")
        self.until(lambda: "sum of the room" in self.one("dialog[open]").text, "the working")

    def test_cautions_stand_where_the_work_is_planned(self) -> None:
        self.begin("depth")
        text = self.one("aside").text
        for word in ("engineer", "Live wires", "silica dust", "inspector"):
            self.assertIn(word, text)


class JobsTest(StepCase):
    def test_name_rules_theme_and_file(self) -> None:
        self.begin("room")
        name = self.field("Name of the job")
        name.send_keys(Keys.CONTROL, "a")
        name.send_keys("Cellar bath", Keys.ENTER)
        self.choose("Rule set", "UK")
        self.choose("Form of falls", "%")
        plan = self.plan()
        self.assertEqual((plan["job"]["name"], plan["rule_set"]), ("Cellar bath", "uk"))
        self.assertIn("1.67 %", self.one('[data-figure="Falls"]').text)
        self.click("Dark colours")
        self.driver.refresh()
        self.ready()
        self.assertEqual(self.one("html").get_attribute("data-theme"), "tide-night")
        self.click("Light colours")
        link = self.one('a[aria-label="Download the plan file"]').get_attribute("href")
        file = self.server.database.parent / "cellar.json"
        file.write_text(json.dumps(self.server.call("GET", link.split("/api")[1])), "utf-8")
        self.open("/")
        self.button("New job")
        self.one('input[type="file"]').send_keys(str(file))
        self.ready()
        self.assertEqual(self.field("Name of the job").get_attribute("value"), "Cellar bath")
        self.assertEqual(len(self.server.call("GET", "/jobs")["jobs"]), 2)

    def test_the_list_shows_what_was_worked_out_last_and_never_an_old_figure(self) -> None:
        self.begin("room")
        self.field("What this job is about").send_keys("Bath comes out.", Keys.TAB)
        self.saved()
        self.assertEqual(self.plan()["job"]["note"], "Bath comes out.")
        card = f'[data-job="{self.job_id}"]'
        self.open("/")
        self.until(lambda: "Recess 14.3 mm" in self.one(card).text, "what it needs")
        self.assertIn("Bath comes out.", self.one(card).text)
        # Once it is known nothing is worked out for the list.
        self.emulate("Network.enable", {})
        self.emulate("Network.setBlockedURLs", {"urls": ["*/card"]})
        self.driver.refresh()
        self.until(lambda: "Recess 14.3 mm" in self.one(card).text, "as it was kept")
        head = self.server.call("GET", f"/jobs/{self.job_id}")
        head["plan"]["shower"]["set_down"] = 3
        asked = {"base": head["revision"], "plan": head["plan"]}
        self.server.call("PUT", f"/jobs/{self.job_id}/plan", asked)
        self.driver.refresh()
        self.seen(f"{card} svg g[opacity='0.4'] path", "the drawing of before, pale")
        self.assertNotIn("Recess", self.one(card).text)
        self.emulate("Network.setBlockedURLs", {"urls": []})
        self.driver.refresh()
        self.until(lambda: "Recess 17.3 mm" in self.one(card).text, "as it is now")
        self.seen(f"{card} svg g[opacity='1'] path", "and its drawing")

    def test_jobs_are_found_copied_deleted_and_brought_back(self) -> None:
        self.begin("room")
        self.open("/")
        card = self.until(lambda: self.one(f'[data-job="{self.job_id}"]'), "the card")
        self.until(lambda: "Recess 14.3 mm" in card.text, "what it needs")
        self.assertIn("changed just now", card.text)
        self.assertGreater(len(card.find_elements(By.CSS_SELECTOR, "svg path")), 4)
        self.click("Copy test")
        self.until(lambda: "test (copy)" in self.one("main").text, "the copy")
        self.field("Search by name").send_keys("copy")
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, f'[data-job="{self.job_id}"]'),
            "only the copy",
        )
        self.field("Search by name").send_keys(Keys.CONTROL, "a")
        self.field("Search by name").send_keys("nobody")
        self.until(lambda: "No job has" in self.one("main").text, "none")
        self.field("Search by name").send_keys(Keys.CONTROL, "a", Keys.DELETE)
        self.click("Delete test")
        self.until(lambda: "was deleted" in self.one('[role="status"]').text, "told")
        self.assertEqual(len(self.server.call("GET", "/jobs")["jobs"]), 1)
        self.open(f"/jobs/{self.job_id}/room")
        self.until(lambda: "No such job" in self.one("main").text, "named")
        self.click("To the jobs")
        self.click("Delete test (copy)")
        self.until(lambda: "No job yet" in self.one("main").text, "gone")
        # What was said of it names it too: it is back once it has a card.
        self.click("Bring it back")
        self.seen("[data-job]", "back")
        self.assertEqual(len(self.server.call("GET", "/jobs")["jobs"]), 1)

    def test_a_name_is_needed_for_a_new_job(self) -> None:
        self.open("/")
        self.click("New job")
        self.field("Name: the address, or whose bathroom it is").send_keys("   ")
        self.click("Start")
        self.until(lambda: "1 to 120" in self.one('[role="alert"]').text, "named")

    def test_undo_survives_a_restart(self) -> None:
        self.begin("drain")
        self.type("Planned fall", "1:50")
        self.saved()
        self.type("Planned fall", "1:70")
        self.saved()
        self.server.kill()
        self.server.start()
        self.driver.refresh()
        self.ready()
        self.click("Undo")
        self.until(lambda: "planned 1:50" in self.one('[data-figure="Falls"]').text, "one back")
        self.click("Undo")
        self.until(lambda: "planned 1:60" in self.one('[data-figure="Falls"]').text, "two back")
        self.assertTrue(self.button("Undo").get_attribute("disabled"))
        self.click("Redo")
        self.until(lambda: "planned 1:50" in self.one('[data-figure="Falls"]').text, "one on")


class AssumedTest(StepCase):
    def assumed(self) -> int:
        self.saved()
        text = self.one('[data-figure="Recess needed"]').text
        found = re.search(r"rests on (\d+) assumed", text)
        return int(found[1]) if found else 0

    def test_what_is_assumed_is_marked_until_it_is_typed_or_confirmed(self) -> None:
        self.open("/")
        self.click("New job")
        self.field("Name: the address, or whose bathroom it is").send_keys("Upstairs")
        self.click("Start")
        self.ready()
        count = self.assumed()
        self.assertGreater(count, 20)
        width = self.field("Width, left to right")
        self.assertTrue(width.get_attribute("data-assumed"))
        self.type("Width, left to right", "2.6 m")
        self.assertEqual(self.assumed(), count - 1)
        self.assertFalse(self.field("Width, left to right").get_attribute("data-assumed"))
        # Typed again as it stands, a measure is measured all the same.
        self.type("Deck thickness", "18")
        self.assertEqual(self.assumed(), count - 2)
        # What decides between a hit and a miss is confirmed by itself.
        self.click("Confirm all else here")
        self.saved()
        marked = "[data-panel] [data-assumed]"
        self.assertEqual(len(self.driver.find_elements(By.CSS_SELECTOR, marked)), 1)
        self.field("First joist from origin").send_keys(Keys.ENTER)
        self.saved()
        room = self.assumed()
        self.assertLess(room, count - 8)
        self.assertFalse(self.driver.find_elements(By.CSS_SELECTOR, marked))
        self.click("Undo")
        self.assertGreater(self.assumed(), room)
        self.click("Redo")
        for step in ("drain", "depth", "under"):
            self.step(step)
            self.click("Confirm all here")
            self.saved()
        self.assertEqual(self.assumed(), 0)

    def test_all_that_is_assumed_of_a_new_job_and_its_parts_has_a_field(self) -> None:
        for length, ground, drain in (("in", "joists", "linear"), ("mm", "slab", "point")):
            said = {"ground": ground, "drain": drain, "users": ["chair"]}
            asked = {"name": "Upstairs", "length": length, "rule_set": "uk", "said": said}
            head = self.server.call("POST", "/jobs", asked)
            plan = plan_from(head["plan"])
            for what in (
                "WC",
                "basin",
                "bar",
                "head",
                "bench",
                "floor outside",
                "stack",
                "heating",
            ):
                plan = add(plan, what, 0)
            document = plan.model_dump(mode="json")
            left = {one.name: set(one.fields) for one in answered(plan).assumed.listed}
            self.assertGreater(len(left), 40)
            self.job(document, "room")
            for step in ("room", "drain", "depth", "under", "access", "water", "heating"):
                self.step(step)
                tabs = [one.text for one in self.all('[data-panel] [role="tab"]')]
                for tab in tabs or [""]:
                    if tab:
                        self.view(tab)
                    there = self.driver.execute_script(
                        "return [...document.querySelectorAll('[data-panel] [data-field]')]"
                        ".flatMap((one) => one.dataset.field.split(' '))"
                    )
                    left = {name: of for name, of in left.items() if not of & set(there)}
            self.assertEqual(left, {})

    def walk(self) -> str:
        """The field at which the walk over what is assumed stands; it has the keyboard."""
        at = "return document.querySelector('[data-walk]')?.dataset.walk"
        has = (
            "return (document.activeElement.dataset.field ?? '').split(' ').includes(arguments[0])"
        )

        def standing() -> str:
            field: str = self.driver.execute_script(at)
            assert self.driver.execute_script(has, field)
            return field

        return self.until(standing, "the next one has the keyboard")

    def on(self, before: str) -> str:
        """The same once it has gone on."""
        return self.until(lambda: (at := self.walk()) != before and at, f"on from {before}")

    def test_one_after_the_other_they_are_typed_with_enter_on_a_phone(self) -> None:
        self.size(390, 844)
        said = {"name": "Upstairs", "length": "in", "rule_set": "us-dwelling"}
        self.job_id = self.server.call("POST", "/jobs", said)["job_id"]
        self.open(f"/jobs/{self.job_id}/room")
        self.ready()
        self.click("Measure one by one")
        at = self.walk()
        self.assertEqual(at, "/room/outline/1/0")
        self.press('100 1/2"', Keys.ENTER)
        at = self.on(at)
        self.assertEqual(at, "/room/outline/2/1")
        # What cannot be read stays where it is, and so does the walk.
        self.press("wide", Keys.ENTER)
        self.seen("[data-panel] [aria-invalid]", "refused at its field")
        self.assertEqual(self.walk(), at)
        self.press(Keys.ESCAPE)
        self.click("Skip it")
        skipped, at = at, self.on(at)
        self.assertEqual(at, "/room/doors/0/offset")
        # Right as it is: by Enter, or by the press of what it is.
        self.press(Keys.ENTER)
        at = self.on(at)
        self.assertEqual(at, "/room/doors/0/width")
        self.one("[data-walk] button").click()
        visited = [at]
        steps = set()
        while visited[-1] != skipped:
            at = self.on(at)
            visited.append(at)
            steps.add(re.search(r"/jobs/\w+/(\w+)", self.driver.current_url)[1])  # type: ignore[index]
            shown = self.driver.execute_script(
                "const box = document.activeElement.getBoundingClientRect();"
                "const bar = document.querySelector('[data-walk]').getBoundingClientRect();"
                "return box.top >= 0 && box.bottom <= bar.top"
            )
            self.assertTrue(shown, f"{at} lies under the bar")
            if at == skipped:
                self.click("Stop measuring")
            else:
                self.one("[data-walk] button").click()
        self.assertGreater(len(visited), 20)
        self.assertEqual(len(visited), len(set(visited)))
        self.assertLessEqual({"room", "depth", "under"}, steps)
        self.saved()
        self.assertEqual(self.plan()["assumed"], ["/room/outline/2/1", "/room/outline/3/1"])
        self.step("room")
        self.click("Measure one by one")
        self.assertEqual(self.walk(), skipped)
        self.press("72", Keys.ENTER)
        self.until(lambda: "Nothing is assumed" in self.one("[data-walk]").text, "the end")
        self.saved()
        plan = self.plan()
        self.assertEqual(plan["assumed"], [])
        self.assertAlmostEqual(plan["room"]["outline"][1][0], 100.5 * 25.4)
