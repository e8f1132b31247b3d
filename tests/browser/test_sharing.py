"""Sharing a project: with people, and with whoever has a link."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, send
from tests.browser.test_at_ease import is_whole

pytestmark = pytest.mark.timeout(180)


def test_a_project_is_shared_by_a_link_that_shows_and_changes_nothing(page: Page, tall, browser, application):
    begin_project(page, "Shown")
    send(page, tall)
    expect(page.locator("[data-cell]")).to_have_count(1)
    page.get_by_role("button", name="Share").click()
    dialog = page.get_by_role("dialog", name="Share Shown")
    dialog.get_by_label("Account name").fill("nobody at all")
    dialog.get_by_role("button", name="Add").click()
    expect(dialog.get_by_role("alert")).to_be_visible()
    dialog.get_by_role("button", name="Make a link").click()
    expect(dialog.get_by_label("Link", exact=True)).to_have_count(1)
    is_whole(page, "sharing")
    address = dialog.get_by_label("Link", exact=True).input_value()
    # Somebody else, at another machine: the demonstration lets in who comes from this one.
    stranger = browser.new_context(extra_http_headers={"X-Forwarded-For": "192.0.2.9"}, bypass_csp=True)
    try:
        elsewhere = stranger.new_page()
        elsewhere.goto(address)
        expect(elsewhere.get_by_role("heading", name="Shown", level=1)).to_be_visible()
        expect(elsewhere.get_by_text("Select a picture to see the clip")).to_be_visible()
        expect(elsewhere.get_by_role("button", name="Add clips")).to_have_count(0)
        is_whole(elsewhere, "shared")
        elsewhere.get_by_role("button", name="Tall").click()
        shown = elsewhere.get_by_role("dialog", name="Tall.mp4")
        expect(shown.get_by_text("not rendered yet")).to_be_visible()
        dialog.get_by_role("button", name="Revoke").click()
        expect(dialog.get_by_label("Link", exact=True)).to_have_count(0)
        assert elsewhere.goto(address).status == 404
    finally:
        stranger.close()
