"""The main job on the real interface: with the mouse, with the keyboard, and against mishaps."""

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.case import BrowserCase
from tests.plans import channel, document, point


class MouseTest(BrowserCase):
    def test_from_a_measured_room_to_the_same_recess_after_a_reload(self) -> None:
        self.open("/")
        self.until(lambda: "No job yet" in self.one("main").text, "the empty state")
        self.click("New job")
        self.field("Name: the address, or whose bathroom it is").send_keys("Upstairs")
        self.click("Start")
        self.ready()
        self.type("Width, left to right", "2.6 m")
        self.type("Depth, bottom to top", "2100")
        self.step("drain")
        self.one('[data-choice="point"]').click()
        self.until(lambda: self.one('[aria-label^="Drain."]'), "the point drain")
        self.type("Planned fall", "1:60")
        before = self.figure("Drop at drain")
        handle = self.one('[data-handle="drain"]')
        ActionChains(self.driver, duration=60).click_and_hold(handle).move_by_offset(
            -70, 0
        ).move_by_offset(-20, 0).release().perform()
        self.until(lambda: self.figure("Drop at drain") != before, "the drop follows the drag")
        self.step("depth")
        self.type("Least bed, at the drain", "16")
        self.saved()
        shown = self.figure("Recess needed")
        job = self.server.call("GET", "/jobs")["jobs"][0]
        plan = self.server.call("GET", f"/jobs/{job['id']}")["plan"]
        self.assertEqual(plan["room"]["outline"][2], [2600, 2100])
        solution = self.server.call("POST", "/solve", {"plan": plan})
        self.assertEqual(shown, solution["figures"]["recess_needed"]["text"])
        chip = self.driver.find_elements(By.CSS_SELECTOR, "svg text")
        self.assertIn(f"recess {shown}", [text.text for text in chip])
        self.driver.refresh()
        self.ready()
        self.assertEqual(self.figure("Recess needed"), shown)

    def test_every_figure_says_why(self) -> None:
        self.job(document())
        self.one('[data-figure="Recess needed"]').click()
        text = self.until(lambda: self.one("dialog[open]").text, "the working")
        self.assertIn("recess = what goes under", text)
        self.click("Close")
        self.one('[data-figure="Drop at drain"]').click()
        self.until(lambda: "792.6 mm" in self.one("dialog[open]").text, "the run")
        self.press(Keys.ESCAPE)
        self.until(lambda: not self.driver.find_elements(By.TAG_NAME, "dialog"), "closed")

    def test_a_cure_is_one_press(self) -> None:
        self.job(document(fall={"asked": 1 / 48}))
        self.assertTrue(self.one('[data-code="fall_over_most"]'))
        self.cure("Turn to a channel across the entry")
        self.reads("Falls", "1:48")
        self.until(
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, '[data-code="fall_over_most"]'),
            "cured",
        )
        self.click("Undo")
        self.until(lambda: self.one('[data-code="fall_over_most"]'), "undone")

    def test_units_change_what_is_read_not_what_is_meant(self) -> None:
        self.job(document(drain=channel(0, 1765, 1500, 1765), fall={"asked": 1 / 48}))
        self.reads("Recess needed", "18.3 mm")
        units = self.one('[aria-label="Units of length"]')
        units.find_element(By.XPATH, './option[.="inches, 1/16"]').click()
        self.reads("Recess needed", '3/4"')
        units.find_element(By.XPATH, './option[.="mm"]').click()
        self.reads("Recess needed", "18.3 mm")


class NewJobTest(BrowserCase):
    def test_described_on_one_screen_without_a_mouse_it_opens_as_it_was_said(self) -> None:
        self.open("/")
        self.button("New job").send_keys(Keys.ENTER)
        self.until(lambda: self.one("dialog[open]"), "the dialog")
        # The keyboard is where the name is typed.
        self.press("Attic", Keys.TAB)
        self.driver.switch_to.active_element.send_keys("inches")
        for label, text in (
            ("Width", "5 ft"),
            ("Depth, door to back", "84"),
            ("Shower width", "72"),
        ):
            self.field(label).send_keys(text)
        # The small drawings are radios: arrow keys choose.
        self.field_radio("Back left").send_keys(Keys.ARROW_RIGHT)
        self.field_radio("Channel").send_keys(Keys.ARROW_RIGHT)
        self.button("In a chair").send_keys(Keys.SPACE)
        self.one("dialog input[type=checkbox]").send_keys(Keys.SPACE)
        self.button("Start").send_keys(Keys.ENTER)
        # Refused, what was typed stays, and the reason stands at its field.
        note = self.until(lambda: self.one("dialog [role=alert]"), "why")
        self.assertEqual(note.text, 'The room is 60" wide. Make the shower no wider.')
        wide = self.field("Shower width")
        self.assertEqual(wide.get_attribute("value"), "72")
        self.assertEqual(wide.get_attribute("aria-describedby"), note.get_attribute("id"))
        high = "return arguments[0].scrollHeight <= arguments[0].clientHeight"
        self.assertTrue(self.driver.execute_script(high, self.one(".modal-box")))
        wide.send_keys(Keys.CONTROL, "a", Keys.NULL, "42", Keys.ENTER)
        self.ready()
        job_id = self.driver.current_url.split("/")[-2]
        plan = self.server.call("GET", f"/jobs/{job_id}")["plan"]
        self.assertEqual(plan["display"]["length"], "in")
        self.assertEqual(
            [round(x / 25.4, 6) for x, _ in plan["shower"]["outline"]], [18, 60, 60, 18]
        )
        self.assertEqual(plan["shower"]["drain"]["kind"], "point")
        self.assertEqual((plan["users"], plan["accessible"]), (["chair"], True))
        # What was typed is measured; what was not is assumed and looks so.
        width = self.field("Width, left to right")
        self.assertIsNone(width.get_attribute("data-assumed"))
        self.step("depth")
        self.view("Build-up")
        self.assertTrue(self.driver.find_elements(By.CSS_SELECTOR, "[data-assumed]"))

    def field_radio(self, label: str) -> WebElement:
        by = f'//label[contains(., "{label}")]/input[@type="radio"]'
        return self.driver.find_element(By.XPATH, by)


class KeyboardTest(BrowserCase):
    def test_the_main_job_without_a_mouse(self) -> None:
        self.open("/")
        self.button("New job")
        self.tab_to("New job")
        self.press(Keys.ENTER)
        self.until(lambda: self.one("dialog[open]"), "the dialog")
        self.tab_to("Name:")
        self.press("Attic", Keys.ENTER)
        self.ready()
        self.tab_to("Width, left to right")
        self.press("2500", Keys.ENTER)
        self.until(
            lambda: self.field("Width, left to right").get_attribute("value") == "2500", "room"
        )
        self.tab_to("Width, left to right")
        self.press("1400", Keys.ENTER)
        self.press(Keys.ESCAPE)
        self.driver.execute_script("document.activeElement.blur()")
        self.press("2")
        self.until(lambda: self.one('[data-choice="point"]'), "the drain step")
        self.tab_to("Point, level edge")
        self.press(Keys.SPACE)
        self.until(lambda: self.one('[aria-label^="Drain."]'), "the point drain")
        self.tab_to("Centre, from wall 4")
        # What a field reads comes with the answer.
        self.saved()
        before = float(self.field("Centre, from wall 4").get_attribute("value"))
        self.driver.execute_script("document.activeElement.blur()")
        self.tab_to("Drain. Arrow keys move it")
        self.press(Keys.ARROW_LEFT, Keys.ARROW_LEFT)
        self.chord(Keys.SHIFT, Keys.ARROW_LEFT)
        self.until(
            lambda: float(self.field("Centre, from wall 4").get_attribute("value")) == before - 12,
            "the drain went 12 mm left",
        )
        self.saved()
        shown = self.figure("Recess needed")
        self.chord(Keys.CONTROL, "z")
        self.until(
            lambda: float(self.field("Centre, from wall 4").get_attribute("value")) != before - 12,
            "undone",
        )
        self.chord(Keys.CONTROL, "y")
        self.until(
            lambda: float(self.field("Centre, from wall 4").get_attribute("value")) == before - 12,
            "redone",
        )
        self.press("?")
        self.until(lambda: "Keys" in self.one("dialog[open]").text, "the help")
        self.press(Keys.ESCAPE)
        self.driver.refresh()
        self.ready()
        self.assertEqual(self.figure("Recess needed"), shown)


class MishapTest(BrowserCase):
    def alert(self) -> str:
        return self.until(lambda: self.one('[role="alert"]').text, "an alert")

    def test_what_cannot_be_read_is_named_and_kept(self) -> None:
        self.job(document())
        self.type("Centre, from wall 4", "5'' 3")
        self.until(lambda: "not a length" in self.alert(), "told why")
        self.assertEqual(self.field("Centre, from wall 4").get_attribute("value"), "5'' 3")
        self.type("Centre, from wall 4", "74 cm")
        self.until(
            lambda: self.field("Centre, from wall 4").get_attribute("value") == "740", "read"
        )

    def test_a_plan_that_cannot_be_is_kept_but_not_saved(self) -> None:
        job_id = self.job(document(), "depth")
        self.view("Build-up")
        self.type("Shower, from the tile down: thickness of tile", "-5")
        self.until(lambda: "or more" in self.alert(), "told why")
        # What says that it is not saved pushes the button down: it stands by now.
        self.settled()
        self.click("Back to the last good plan")
        self.saved()
        self.step("room")
        folds = '//summary[contains(., "Corners")]'
        self.until(lambda: len(self.driver.find_elements(By.XPATH, folds)) == 2, "both lists")
        for corner in self.driver.find_elements(By.XPATH, folds):
            corner.click()
        self.until(lambda: self.field("Shower: corner 2, right").is_displayed(), "they are open")
        self.type("Shower: corner 2, right", "2500")
        self.until(lambda: "outside the room" in self.alert(), "told why")
        field = self.field("Shower: corner 2, right")
        self.until(lambda: field.get_attribute("value") == "2500", "what was typed stands")
        self.type("Room: corner 1, right", "2500")
        self.type("Room: corner 2, right", "100")
        self.until(lambda: "crosses" in self.alert(), "the self-crossing is named")
        stands = self.server.call("GET", f"/jobs/{job_id}")["plan"]["room"]["outline"]
        self.assertEqual(stands[1], [2400, 0])
        self.settled()
        self.click("Back to the last good plan")
        self.ready()

    def test_a_drain_in_the_wall_says_how_far_to_move(self) -> None:
        self.job(document(drain=point(10, 1350)))
        self.assertEqual(self.figure("Recess needed"), "—")
        self.cure("Move the drain to the middle")
        self.until(lambda: self.figure("Recess needed") != "—", "worked out again")

    def test_a_file_that_is_no_plan_is_refused_with_its_reason(self) -> None:
        self.open("/")
        self.button("New job")
        chooser = self.one('input[type="file"]')
        file = self.server.database.parent / "plan.json"
        for text, word in [('{"version": 99}', "version 99"), ("hello", "not JSON")]:
            file.write_text(text, "utf-8")
            chooser.send_keys(str(file))
            self.until(lambda word=word: word in self.one('[role="alert"]').text, word)

    def test_two_windows_on_one_job_lose_nothing(self) -> None:
        for choice in ("Keep mine on top", "Take the other, keep mine as a copy"):
            job_id = self.job(document())
            head = self.server.call("GET", f"/jobs/{job_id}")
            theirs = document(set_down=4)
            self.server.call(
                "PUT", f"/jobs/{job_id}/plan", {"base": head["revision"], "plan": theirs}
            )
            self.type("Planned fall", "1:70")
            self.click(choice)
            self.saved()
            stands = self.server.call("GET", f"/jobs/{job_id}")
            jobs = self.server.call("GET", "/jobs")["jobs"]
            copies = [job for job in jobs if "(my copy)" in job["name"]]
            if choice.startswith("Keep"):
                self.assertAlmostEqual(stands["plan"]["shower"]["fall"]["asked"], 1 / 70)
                back = {"base": stands["revision"]}
                undone = self.server.call("POST", f"/jobs/{job_id}/undo", back)
                self.assertEqual(undone["plan"]["shower"]["set_down"], 4)
                self.assertEqual(copies, [])
            else:
                self.assertEqual(stands["plan"]["shower"]["set_down"], 4)
                mine = self.server.call("GET", f"/jobs/{copies[0]['id']}")["plan"]
                self.assertAlmostEqual(mine["shower"]["fall"]["asked"], 1 / 70)

    def test_a_killed_server_costs_no_work(self) -> None:
        job_id = self.job(document())
        self.server.kill()
        self.one('[aria-label="Drain. Arrow keys move it."]').send_keys(Keys.ARROW_LEFT)
        self.until(lambda: self.one('[data-save="offline"]'), "told that nothing is saved")
        self.server.start()
        self.saved()
        stands = self.server.call("GET", f"/jobs/{job_id}")["plan"]
        self.assertEqual(stands["shower"]["drain"]["centre"], [749, 1350])

    def test_what_was_not_saved_is_back_after_the_window_was_closed(self) -> None:
        job_id = self.job(document())
        self.server.kill()
        self.one('[aria-label="Drain. Arrow keys move it."]').send_keys(Keys.ARROW_LEFT)
        self.until(lambda: self.one('[data-save="offline"]'), "told that nothing is saved")
        self.driver.get("about:blank")
        self.server.start()
        self.open(f"/jobs/{job_id}/drain")
        self.ready()
        self.assertIn("is back", self.one('aside [role="status"]').text)
        self.saved()
        stands = self.server.call("GET", f"/jobs/{job_id}")["plan"]
        self.assertEqual(stands["shower"]["drain"]["centre"], [749, 1350])

    def test_an_edit_on_its_way_is_never_shown_as_saved(self) -> None:
        job_id = self.job(document())
        slow = {"offline": False, "latency": 800, "downloadThroughput": -1, "uploadThroughput": -1}
        self.emulate("Network.enable", {})
        self.emulate("Network.emulateNetworkConditions", slow)
        none = slow | {"latency": 0}
        self.addCleanup(self.emulate, "Network.emulateNetworkConditions", none)
        edits = (
            lambda: self.type("Planned fall", "1:50"),
            lambda: self.one('[data-handle="drain"]').send_keys(Keys.ARROW_LEFT),
            lambda: self.click("Undo"),
            lambda: self.click("Turn to a channel across the entry"),
        )
        for edit in edits:
            self.saved()
            before = self.server.call("GET", f"/jobs/{job_id}")["plan"]
            edit()
            self.assertEqual(self.one("[data-agrees]").get_attribute("data-agrees"), "no")
            self.assertEqual(self.one("[data-save]").get_attribute("data-save"), "saving")
            self.assertNotIn("Saved", self.one("header").text)
            self.saved()
            after = self.server.call("GET", f"/jobs/{job_id}")["plan"]
            self.assertNotEqual(after, before)
            answer = self.server.call("POST", "/solve", {"plan": after})
            self.assertIn(answer["figures"]["fall_steepest"]["text"], self.figure("Falls"))
