"""Labels of changes to clips and frames, as the history shows them."""

from cadrage.footage import Interpretation
from cadrage.formats import Delivery, Frame
from cadrage.output import Settings
from cadrage.values import Value
from server.studio.models import ProjectFrame

OF_SOURCE = {
    "pixel_aspect": "Pixel shape",
    "rotation": "Rotation",
    "mirror": "Mirror",
    "clean_aperture": "Clean aperture",
    "burned_in_bars": "Bars in the picture",
    "fields": "Fields",
    "deinterlace": "Deinterlacing",
    "range": "Code range",
    "matrix": "Colour matrix",
    "primaries": "Colour primaries",
    "transfer": "Transfer curve",
    "rate": "Frame rate",
    "duration": "Duration of the still",
    "matte": "Background of the still",
}
"""By the fields of an interpretation."""

OF_FRAME = {
    "width": "Frame size",
    "height": "Frame size",
    "pixel_aspect": "Pixel shape of the frame",
    "active": "Active picture",
    "outside": "Outside the active picture",
    "bar_colour": "Colour of the bars",
    "rate": "Frame rate",
    "fields": "Fields",
    "colour": "Colour of the frame",
    "name": "Rename frame",
}
"""By the fields of a frame."""


def interpretation_label(before: Interpretation | None, after: Interpretation | None) -> str:
    """The label of a change of one clip's interpretation; None stands for the preset of its format."""
    if after is None:
        return "Use the preset of its format"
    return _label(OF_SOURCE, before or Interpretation(), after, "Source")


def frame_label(row: ProjectFrame, frame: Frame, delivery: Delivery, settings: Settings) -> str:
    """The label of a change of a frame, its delivery or its file settings."""
    if settings != row.settings:
        return "File settings"
    if delivery != row.delivery:
        return "Delivery settings"
    return _label(OF_FRAME, row.value, frame, "Frame")


def _label(labels: dict[str, str], before: Value, after: Value, otherwise: str) -> str:
    changed = [label for name, label in labels.items() if getattr(before, name) != getattr(after, name)]
    return changed[0] if changed else otherwise
