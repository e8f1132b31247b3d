"""The page of administrators."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_at_ease import is_whole

pytestmark = pytest.mark.timeout(120)


@pytest.fixture
def head(application):
    """Whoever visits administers, for the length of a test."""
    said = "from django.contrib.auth.models import User; User.objects.update(is_staff={})"
    application.manage("shell", "--verbosity", "0", "-c", said.format(True))
    yield
    application.manage("shell", "--verbosity", "0", "-c", said.format(False))


def test_people_are_invited_and_given_what_they_may_use(page: Page, head, browser, application):
    page.goto("/")
    page.get_by_role("link", name="People").click()
    expect(page.get_by_role("heading", name="People and server", level=1)).to_be_visible()
    page.get_by_role("button", name="Make an invitation").click()
    expect(page.get_by_label("Invitation", exact=True)).to_have_count(1)
    is_whole(page, "people")
    address = page.get_by_label("Invitation", exact=True).first.input_value()
    elsewhere = browser.new_context(extra_http_headers={"X-Forwarded-For": "192.0.2.9"}, base_url=application.address)
    try:
        guest = elsewhere.new_page()
        guest.goto(address)
        guest.get_by_label("Name").fill("noor")
        for field in ("Password", "Repeat password"):
            guest.get_by_label(field, exact=True).fill("wall-and-lamp-9")
        guest.get_by_role("button", name="Create account").click()
        expect(guest.get_by_role("heading", name="Projects")).to_be_visible()
        expect(guest.get_by_role("link", name="People")).to_have_count(0)
        line = page.get_by_role("row").filter(has_text="noor")
        expect(line).to_be_visible(timeout=20_000)
        line.get_by_label("Gigabytes that noor may use").fill("5")
        line.get_by_label("Gigabytes that noor may use").press("Enter")
        line.get_by_role("button", name="Deactivate account").click()
        expect(line.get_by_role("button", name="Reactivate account")).to_be_visible()
        expect(line.get_by_label("Gigabytes that noor may use")).to_have_value("5")
        guest.reload()
        expect(guest.get_by_role("button", name="Sign in")).to_be_visible()
    finally:
        elsewhere.close()


def test_what_is_not_for_everybody_says_so(page: Page):
    page.goto("/house")
    expect(page.get_by_role("alert")).to_contain_text("This is for administrators.")
