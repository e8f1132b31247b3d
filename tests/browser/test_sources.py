"""The page keeps to what it says of where it may load from."""

import pytest
from playwright.sync_api import Browser, expect

from tests.application import Application
from tests.browser.hands import begin_project, send, steps

pytestmark = pytest.mark.timeout(240)


def test_no_view_loads_from_where_it_may_not(browser: Browser, application: Application, tall):
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=application.address)
    page = context.new_page()
    refused: list[str] = []
    page.on("console", lambda said: refused.append(said.text) if "Content Security Policy" in said.text else None)
    begin_project(page, "Sources")
    send(page, tall)
    page.locator("[data-cell]").click()
    for step in ("Source", "Frame", "Movement", "Finish", "Surround"):
        steps(page).get_by_text(step, exact=True).click()
    expect(page.get_by_test_id("composed")).to_be_visible()
    page.keyboard.press("l")
    expect(page.get_by_test_id("played").locator("video")).to_be_visible()
    page.keyboard.press("k")
    for address in ("/formats", "/help", "/help/check", "/"):
        page.goto(address)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
    context.close()
    assert refused == []
