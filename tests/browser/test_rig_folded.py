"""The Rig's table beside the plan: what is alike in one row, which opens; what is typed is drawn before it is there."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import uuid4

from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import RunningApp, wait_for
from tests.heads import add_head

Browse = Callable[[str], Page]
GRID = '[role="grid"][aria-label="Fixtures"]'
ROWS = f'{GRID} [role="rowgroup"] [role="row"]'
LINE = "3 x RGB pixel strip, mode 16 RGB, from 107, Tower {n}"


def shown(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")
    return found


def numbers(page: Page) -> list[str]:
    """What stands first in each row of the table, typed or not."""
    script = (
        "const rows = [...document.querySelectorAll(arguments[0])]; "
        "return rows.sort((a, b) => a.ariaRowIndex - b.ariaRowIndex).map(row => "
        "{ const cell = row.querySelector('[role=gridcell]'); "
        "return cell.querySelector('input')?.value ?? cell.innerText.trim(); })"
    )
    found: list[str] = page.driver.execute_script(script, ROWS)
    return found


def opened(app: RunningApp, browse: Browse) -> Page:
    """Six strips and four heads on a plan."""
    api, plan, ring = app.api(), str(uuid4()), add_head(app)
    api.call("POST", "/api/plans", {"id": plan, "name": "Front elevation"})
    for text, count in (("6 x RGB pixel strip, mode 16 RGB, from 101, Tower {n}", 6), (f"4 x {ring}, from 701", 4)):
        api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(count)], "plan": plan})
    page = browse(app.address)
    page.open("rig")
    page.sees("Front elevation")
    return page


def test_what_is_alike_is_one_row_that_opens_down_to_its_cells(app: RunningApp, show: str, browse: Browse) -> None:
    page = opened(app, browse)
    wait_for(lambda: numbers(page) == ["101-106", "701-704"], 8, "they are not folded")
    page.press(f"{ROWS} [role=gridcell]")
    page.sees("6 of 10 fixtures")
    page.key(Keys.ARROW_RIGHT)
    wait_for(lambda: numbers(page) == ["101-106", *map(str, range(101, 107)), "701-704"], 8, "a row does not open")
    page.key(Keys.ARROW_DOWN)
    page.sees("1 of 10 fixtures")
    page.key(Keys.ARROW_UP, Keys.ARROW_LEFT, Keys.ARROW_DOWN)
    page.sees("4 of 10 fixtures")
    page.key(Keys.ARROW_RIGHT, Keys.ARROW_DOWN, Keys.ARROW_RIGHT)
    page.sees("1 of 10 fixtures")
    page.press(f"{GRID} [aria-label='Open Tower 1-6']")
    wait_for(lambda: numbers(page)[8:11] == ["701", "701:0", "701:1-12"], 8, "a head does not open into its parts")
    page.type_into("input[aria-label='Name of 103']", "Tower, cracked")
    wait_for(lambda: any(one["name"] == "Tower, cracked" for one in shown(app)["fixtures"]), 8, "it is not stored")
    wait_for(lambda: numbers(page)[:4] == ["101-102", "101", "102", "103"], 8, "it is still taken for one of them")


def test_a_row_opens_where_only_some_of_it_are_chosen_and_closes_by_keys(
    app: RunningApp, show: str, browse: Browse
) -> None:
    page = opened(app, browse)
    page.type_into("input[aria-label='Select by typing']", "101-106 every 2nd")
    page.sees("3 fixtures, 48 cells")
    wait_for(lambda: numbers(page)[:3] == ["101-106", "101", "102"], 8, "it is not seen which")
    page.press(f"{GRID} [aria-label='Open 703'], {GRID} [aria-label='Open Ring of 12 1-4']")
    wait_for(lambda: "701" in numbers(page), 8, "the heads do not open")
    page.press(f"{GRID} [aria-label^='Open Ring of 12 2']")
    wait_for(lambda: "702:1-12" in numbers(page), 8, "the second does not open")
    page.press(f"{GRID} canvas[aria-label='Ring of 12 2 as sent']")
    page.sees("1/12")
    page.press(f"{GRID} [aria-label='Open Ring of 12 1']")
    page.press(f"{GRID} [aria-label='Close Ring of 12 1-4']")
    wait_for(lambda: numbers(page)[-1] == "701-704", 8, "they do not close")


def test_what_is_typed_is_drawn_before_it_is_there_and_hangs_there_then(
    app: RunningApp, show: str, browse: Browse
) -> None:
    page = opened(app, browse)
    page.press("#add-line")
    page.find("#add-line").send_keys(LINE)
    page.sees("They hang below everything on Front elevation.")
    page.find("[role=img][aria-label='U2: 3 would come, 210 channels stay free']")
    page.key(Keys.ENTER)
    page.sees("3 fixtures added")
    plan = shown(app)["plans"][0]
    assert {one["id"] for one in plan["items"]} == {one["id"] for one in shown(app)["fixtures"]}
    assert "Not on this plan" not in page.text()
    page.click("Undo")
    wait_for(lambda: len(shown(app)["plans"][0]["items"]) == 10, 8, "one undo does not take them off the plan")
    assert len(shown(app)["fixtures"]) == 10
