from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect, sync_playwright

from tests.application import Application
from tests.chromium import launch
from tests.clips import write_clip

# Nothing here asks how fast a page answers; a machine with other work to do may take its time.
expect.set_options(timeout=20_000)


@pytest.fixture(scope="session")
def driver() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def browser(driver: Playwright) -> Iterator[Browser]:
    with launch(driver) as browser:
        yield browser


@pytest.fixture(scope="session")
def context(browser: Browser, application: Application) -> Iterator[BrowserContext]:
    """One visitor for all tests, whose browser has loaded the page before; every test has projects of its own.

    Their machine has a mouse and a touch screen.

    What waits for something in the page is script in a string, which the page's policy forbids and tests may do.
    """
    context = browser.new_context(
        viewport={"width": 1280, "height": 800},
        base_url=application.address,
        accept_downloads=True,
        bypass_csp=True,
        has_touch=True,
    )
    yield context
    context.close()


@pytest.fixture
def page(context: BrowserContext) -> Iterator[Page]:
    """A page at 1280×800; anything it complains of fails the test."""
    page = context.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    yield page
    page.close()
    assert complaints == []


@pytest.fixture(scope="session")
def tall(tmp_path_factory):
    return write_clip(tmp_path_factory.mktemp("tall") / "Tall.mp4", size=(180, 320), frames=50, sound=None)
