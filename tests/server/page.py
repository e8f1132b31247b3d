"""What the page asks of the server about one framing."""

from base64 import b64decode

PARTS = ("placement", "motion", "surround", "finish", "shots")


def state(client, framing):
    return client.get(f"/api/framings/{framing.pk}").json()


def design_of(plan):
    """What people decide of a plan as JSON has it."""
    return {part: plan[part] for part in PARTS}


def put(client, framing, plan, label="Changed", version=None):
    version = state(client, framing)["version"] if version is None else version
    return put_each(client, framing, [(plan, label)], version)


def put_each(client, framing, done, version):
    """Send several things that were done one after another: plans and labels."""
    steps = [{"design": design_of(plan), "label": label} for plan, label in done]
    body = {"steps": steps, "version": version}
    return client.put(f"/api/framings/{framing.pk}/design", body, content_type="application/json")


def walk(client, framing, way):
    """Undo or redo in the project of a framing, and look at that framing."""
    address = f"/api/projects/{framing.footage.project_id}/{way}"
    return client.post(address, {"framing": framing.pk}, content_type="application/json").json()


def labels_of(client, framing):
    """What undo and redo would be about; None for nothing."""
    history = client.get(f"/api/projects/{framing.footage.project_id}/history").json()
    return tuple(history[way] and history[way]["label"] for way in ("undo", "redo"))


def step(client, framing, way, version=None):
    """Follow the rule ("obey") or make it ("rule"); by default to the version as it is now."""
    body = {"version": state(client, framing)["version"] if version is None else version}
    return client.post(f"/api/framings/{framing.pk}/{way}", body, content_type="application/json")


def pictured(answer):
    """The bytes of the picture that an answer holds as a data URL."""
    assert answer.status_code == 200, answer.content
    return b64decode(answer.json()["picture"].partition(";base64,")[2])


def ask(client, framing, what, plan, **more):
    body = {"design": design_of(plan), **more}
    return client.post(f"/api/framings/{framing.pk}/{what}", body, content_type="application/json")


def post_json(client, address, body):
    return client.post(address, body, content_type="application/json")
