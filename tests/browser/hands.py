"""What a person does in the page, and what they see there."""

import base64
import re

import cv2
import numpy as np
from playwright.sync_api import Locator, Page, expect

from tests.browser.visitor import Visitor

# A picture that gives way to the next while it is being fetched is gone; then the next is.
AS_BASE64 = """async (image) => {
    let blob;
    while (!blob) blob = await fetch(image.src).then((answer) => answer.blob()).catch(() => null);
    const reader = new FileReader();
    await new Promise((done) => { reader.onload = done; reader.readAsDataURL(blob); });
    return reader.result.split(",")[1];
}"""


def begin_by_hand(page: Page, name: str):
    page.goto("/")
    page.get_by_label("Project name").fill(name)
    page.get_by_role("button", name="New project").click()
    expect(page.get_by_role("heading", name=name, level=1)).to_be_visible()


def begin_project(page: Page, name: str):
    """A project that is there before somebody opens it."""
    page.goto(f"/projects/{Visitor(page.request).project(name)}")
    expect(page.get_by_role("heading", name=name, level=1)).to_be_visible()


def send(page: Page, path):
    page.get_by_label("Clips to add").set_input_files(path)


def open_bench(page: Page, name: str, clip, step: str):
    visitor = Visitor(page.request)
    project = visitor.project(name)
    visitor.add(project, clip)
    page.goto(f"/projects/{project}/framings/{visitor.framing(project)}")
    steps(page).get_by_text(step, exact=True).click()


def open_tall(page: Page, name: str, clip, step: str):
    """A project with a clip and an upright frame of 180×320, the clip on the bench in that frame."""
    visitor = Visitor(page.request)
    project = visitor.project(name)
    visitor.add(project, clip)
    visitor.post(f"/api/projects/{project}/frames", data={"name": "Tall", "width": 180, "height": 320})
    page.goto(f"/projects/{project}/framings/{visitor.framing(project, 1)}")
    steps(page).get_by_text(step, exact=True).click()
    expect(page.get_by_text("Tall 180 × 320")).to_be_visible()
    return page


def undoes(page: Page):
    """The label of the change that Undo is about, and of that which Redo is about; None for nothing."""
    project = re.search(r"/projects/(\d+)", page.url)[1]
    history = page.request.get(f"/api/projects/{project}/history").json()
    return tuple(history[way] and history[way]["label"] for way in ("undo", "redo"))


def stored(page: Page):
    """The framing on the bench as the server has it."""
    number = re.search(r"framings/(\d+)", page.url)[1]
    return page.request.get(f"{re.match(r'https?://[^/]+', page.url)[0]}/api/framings/{number}").json()


def clip_names(page: Page):
    """The names of the clips on a board, from the top."""
    return page.locator("tbody th p.font-semibold")


def steps(page: Page):
    return page.get_by_role("navigation", name="Steps")


def enter(field: Locator, text: str):
    """Type over what a field holds, and settle it."""
    field.fill(text)
    field.press("Enter")


def stay_when_asked(page: Page):
    """Try to leave, and stay, since the page asks before something is lost."""
    with page.expect_event("dialog") as asked:
        page.evaluate("setTimeout(() => location.reload())")
    assert asked.value.type == "beforeunload"
    asked.value.dismiss()


def well_pixels(page: Page):
    """The composed frame as the page shows it, fetched from what the image holds."""
    image = page.get_by_test_id("composed")
    expect(image).to_be_visible()
    data = image.evaluate(AS_BASE64)
    return cv2.imdecode(np.frombuffer(base64.b64decode(data), np.uint8), cv2.IMREAD_COLOR).astype(int)


def is_awaited(page: Page) -> bool:
    """Whether another picture than the one that is shown is still to come."""
    return page.get_by_test_id("composed").get_attribute("aria-busy") == "true"


def other_than(one):
    """Whether a picture is not this one."""
    return lambda other: one.shape != other.shape or bool((one != other).any())


def settled_pixels(page: Page, until=lambda _: True):
    """The composed frame at its full size, once it no longer changes and is as awaited."""
    before = well_pixels(page)
    for _ in range(160):
        page.wait_for_timeout(125)
        # Ask first: a picture that arrives in between would be reported as shown while `now` is the older one.
        awaited = is_awaited(page)
        now = well_pixels(page)
        if until(now) and not awaited and not other_than(before)(now):
            break
        before = now
    return now


def confirm_render(page: Page):
    """Render what the sheet shows that opens before rendering."""
    sheet = page.get_by_role("dialog", name="Before rendering")
    sheet.get_by_role("button", name=re.compile(r"^Render \d+ files?$")).click()


def render_framing(page: Page):
    """Render the framing on the bench."""
    page.get_by_role("banner").get_by_role("button", name="Render").click()
    confirm_render(page)
