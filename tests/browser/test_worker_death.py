"""A worker that dies in the middle of a render, and one that takes over."""

import pytest

from tests.browser.visitor import Visitor, until
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.mark.long
def test_a_killed_worker_leaves_no_half_file_and_the_render_is_done_again(application, driver, tmp_path):
    clip = write_clip(tmp_path / "long.mp4", frames=110)
    visitor = Visitor(driver.request.new_context(base_url=application.address))
    project, framing = visitor.project_with(clip)
    job = visitor.post(f"/api/framings/{framing}/renders")["id"]

    def state():
        return visitor.get(f"/api/projects/{project}/renders")[0]

    until(lambda: state()["state"] == "running" and state()["done"] > 10, 60)
    application.kill_worker()
    assert state()["state"] == "running"
    assert visitor.request.get(f"/api/renders/{job}/file").status == 404

    application.start_worker()
    until(lambda: state()["attempts"] == 2, 60)
    done = until(lambda: state()["state"] == "done" and state(), 120)
    assert done["report"]["right"]
    assert list((application.folder / "renders").glob("*.part")) == []
