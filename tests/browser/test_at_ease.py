"""Every view is whole for those who hear it, reach it by keys or see little: WCAG 2.2 AA, by axe.

The rules are those of axe-core (Deque Systems), a registry's package, with its best practices; both looks.
"""

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.hands import open_tall, steps

pytestmark = pytest.mark.timeout(240)
AXE = Path(__file__).resolve().parents[2] / "web/node_modules/axe-core/axe.min.js"
TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
STEPS = ("Source", "Frame", "Placement", "Movement", "Surround", "Finish", "Check")
RUN = """(tags) => axe.run(document, { runOnly: { type: "tag", values: tags } })
    .then(({ violations }) => violations.map(({ id, nodes }) =>
        ({ id, nodes: nodes.map(({ html, failureSummary }) => [html.slice(0, 200), failureSummary]) })))"""


def violations(page: Page) -> list:
    if not page.evaluate("Boolean(window.axe)"):
        page.evaluate(AXE.read_text())
    return page.evaluate(RUN, TAGS)


def is_whole(page: Page, where: str):
    """In both looks."""
    for look in ("light", "dim"):
        page.evaluate("(look) => { document.documentElement.dataset.look = look }", look)
        found = violations(page)
        assert found == [], f"{where}, {look}: {json.dumps(found, indent=1)[:6000]}"
    page.evaluate("document.documentElement.dataset.look = 'light'")


def test_axe_finds_what_is_wrong(page: Page):
    page.goto("/formats")
    expect(page.get_by_role("heading", name="Formats")).to_be_visible()
    page.evaluate("""() => {
        const main = document.querySelector("main");
        main.insertAdjacentHTML("beforeend", "<p style='color:#ccc;background:#fff'>pale</p><img src='x'>");
    }""")
    assert {one["id"] for one in violations(page)} >= {"color-contrast", "image-alt"}


def test_every_step_of_the_bench(page: Page, tall):
    open_tall(page, "At ease", tall, "Placement")
    for step in STEPS:
        steps(page).get_by_text(step, exact=True).click()
        page.wait_for_timeout(300)
        is_whole(page, step)
    steps(page).get_by_text("Surround", exact=True).click()
    for toggle in ("larger", "smaller"):
        if page.get_by_role("button", name=toggle).count():
            page.get_by_role("button", name=toggle).click()
            is_whole(page, f"tiles, after {toggle}")
    page.get_by_role("button", name="What it costs").click()
    is_whole(page, "what it costs")
    page.keyboard.press("Shift+?")
    expect(page.get_by_role("dialog", name="Keyboard shortcuts")).to_be_visible()
    is_whole(page, "keys")


def test_every_other_view(page: Page, tall):
    open_tall(page, "All views", tall, "Placement")
    project = page.url.split("/framings")[0]
    page.get_by_role("link", name="Line-up").click()
    expect(page.get_by_role("heading", name="Line-up")).to_be_visible()
    expect(page.get_by_role("main").get_by_role("listitem").first).to_be_visible()
    is_whole(page, "line-up")
    page.goto(project)
    expect(page.get_by_role("grid")).to_be_visible()
    is_whole(page, "board")
    page.get_by_role("button", name="Actions for Tall", exact=True).click()
    is_whole(page, "menu of a clip")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Add frame").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    is_whole(page, "adding a frame")
    for address, heading in ((f"{project}/renders", "Renders"), ("/formats", "Formats"), ("/", "Projects")):
        page.goto(address)
        expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()
        is_whole(page, heading)


SPACED = """* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important; }
p { margin-bottom: 2em !important; }"""
CUT = """() => [...document.querySelectorAll('button, label, dd, dt, h1, h2, h3, p, td, th, a, summary, option')]
    .filter((element) => {
        const { display, overflowX, overflowY, position } = getComputedStyle(element);
        if (display === 'inline' || !element.innerText || element.closest('.sr-only')) return false;
        const hides = overflowX !== 'visible' || overflowY !== 'visible';
        const { scrollWidth, clientWidth, scrollHeight, clientHeight } = element;
        return hides && (scrollWidth > clientWidth + 1 || scrollHeight > clientHeight + 1);
    })
    .map((element) => element.innerText)"""


def test_with_text_set_wider_nothing_is_cut(page: Page, tall):
    """WCAG 2.2, 1.4.12: lines of 1.5, letters 0.12, words 0.16, paragraphs 2 em apart."""
    open_tall(page, "Set wider", tall, "Placement")
    bench = page.url.split("?")[0]
    addresses = [bench.split("/framings")[0], *(f"{bench}?step={step.lower()}" for step in STEPS)]
    for address in addresses:
        page.goto(address)
        page.get_by_role("main").wait_for()
        page.wait_for_timeout(300)
        page.add_style_tag(content=SPACED)
        page.wait_for_timeout(100)
        assert page.evaluate(CUT) == [], address
        sideways = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        assert sideways <= 0, address
        if "framings" in address:
            box = page.get_by_role("banner").get_by_role("button", name="Render", exact=True).bounding_box()
            assert box["x"] + box["width"] <= 1280, address
