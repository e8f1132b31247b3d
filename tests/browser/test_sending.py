"""Files on their way in: lines that break, and pages that are loaded again in the middle."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import begin_project, send

pytestmark = pytest.mark.timeout(120)
LARGE = 9_000_000


@pytest.fixture
def heavy(tall, tmp_path):
    """A clip that takes a while to be sent: what stands behind a clip's end is passed over by who reads it."""
    path = tmp_path / "Heavy.mp4"
    free = (LARGE).to_bytes(4, "big") + b"free"
    path.write_bytes(tall.read_bytes() + free + bytes(LARGE - 8))
    return path


def test_a_line_that_breaks_is_tried_again(page: Page, tall):
    begin_project(page, "Breaking")
    broken = []

    def once(route):
        if route.request.method == "POST" and not broken:
            broken.append(route.request.url)
            route.abort()
        else:
            route.continue_()

    page.route("**/uploads", once)
    send(page, tall)
    expect(page.get_by_text("the line broke, trying again")).to_be_visible()
    expect(page.locator("[data-cell]")).to_have_count(1)
    assert len(broken) == 1


def test_a_file_goes_on_where_it_was_when_the_page_was_loaded_again(page: Page, heavy):
    begin_project(page, "Again")
    page.on("dialog", lambda dialog: dialog.accept())
    sent = []

    def in_part(route):
        """The first piece arrives in part, as where a line breaks in the middle."""
        answer = route.fetch(post_data=heavy.read_bytes()[:4_000_000])
        sent.append(answer.headers["upload-offset"])
        route.fulfill(response=answer)

    page.route("**/uploads", lambda route: in_part(route) if route.request.method == "POST" else route.continue_())
    page.route("**/api/uploads/*", lambda route: route.abort())
    send(page, heavy)
    expect(page.get_by_text("the line broke, trying again")).to_be_visible()
    page.unroute_all(behavior="ignoreErrors")
    page.reload()
    expect(page.get_by_label("Interrupted uploads").get_by_text("Heavy.mp4")).to_be_visible()
    expect(page.get_by_text("44% of it is here")).to_be_visible()
    offsets = []
    page.on(
        "request",
        lambda request: request.method == "PATCH" and offsets.append(request.headers.get("upload-offset")),
    )
    send(page, heavy)
    expect(page.locator("[data-cell]")).to_have_count(1)
    expect(page.get_by_label("Interrupted uploads")).to_have_count(0)
    assert sent == offsets == ["4000000"]


def test_a_picture_that_has_to_wait_for_its_turn_comes_later(page: Page, tall):
    refused = []

    def busy(route):
        if len(refused) < 2:
            refused.append(route.request.url)
            route.fulfill(status=503)
        else:
            route.continue_()

    page.route("**/thumbnail?*", busy)
    begin_project(page, "Busy")
    send(page, tall)
    page.wait_for_function("[...document.querySelectorAll('td img')].some((image) => image.naturalWidth > 100)")
    assert len(refused) == 2
