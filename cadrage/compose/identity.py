"""When two results are the same: one key for previews, thumbnails, strips, renders and parts of renders."""

import json
from collections.abc import Mapping
from hashlib import blake2b

from cadrage.footage import ClipIdentity, Library
from cadrage.plan import Plan

ENGINE_VERSION = 3
"""Raised with every change after which the same plan makes other pixels; a test holds it to the goldens."""


def result_key(
    plan: Plan,
    clips: Mapping[str, str],
    analyses: Mapping[str, str] | None = None,
    engine: int = ENGINE_VERSION,
    **at: object,
) -> str:
    """A text that two results share just where they are the same.

    Args:
        plan: what is made; what its source is called does not count.
        clips: all files that it uses, by the name the plan has for them, as `clips_of` finds them.
        analyses: keys of the analyses it rests on, by kind.
        engine: version of what makes it.
        at: what else is asked: the size, the moment, how a file is written.
    """
    asked = {
        "plan": plan.model_dump(mode="json", exclude={"source"}),
        "clips": dict(clips),
        "analyses": dict(analyses or {}),
        "engine": engine,
        "at": at,
    }
    return blake2b(json.dumps(asked, sort_keys=True, default=str).encode(), digest_size=16).hexdigest()


def clips_of(plan: Plan, own: ClipIdentity, library: Library) -> dict[str, str]:
    """What files a plan uses now, and what their samples are taken to mean, by name; "" is its own clip.

    Raises:
        BadRequest: it names something that is not to be had. MissingSource: a file is not there.
    """
    return {"": own.key} | {name: library.state_of(name) for name in plan.asset_refs if name}
