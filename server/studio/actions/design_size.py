"""The largest design that a framing may have."""

from cadrage.errors import BadRequest
from cadrage.plan import Design
from server.studio.models import Framing

MAX_DESIGN_BYTES = 1 << 20  # as JSON: some 2,000 shots with a surround of their own


def check_size(design: Design, framing: Framing) -> None:
    """Refuse a design that would make every edit of its framing slow.

    Raises:
        BadRequest: as JSON it takes more than `MAX_DESIGN_BYTES`.
    """
    size = len(design.model_dump_json())
    if size > MAX_DESIGN_BYTES:
        raise BadRequest(
            f"Its shots and keyframes take {size / 2**20:.1f} MiB, and at most 1 MiB can be kept.",
            remedy="Join shots, or remove keyframes.",
            clip=framing.footage.name,
        )
