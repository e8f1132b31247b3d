"""Who is looking, and what there is to choose from."""

from ninja import Schema

from cadrage.choices import CHOICES, Choices
from cadrage.compose.concerns import REASONS
from cadrage.fields import Control, Setting
from cadrage.finish import FinishPart, caption_controls, offered_parts, title_controls
from cadrage.formats import FILM_RATIOS, FRAME_FORMATS, SOURCES, SQUEEZES, FilmRatio, Frame, FrameFormat, SourceFormat
from cadrage.formats.aspect_names import aspect_name
from cadrage.output import SHIPPED as SHIPPED_SETTINGS
from cadrage.output import Settings
from cadrage.output.file_settings import FITTING
from cadrage.render.offers import FileOffer, offered_files
from cadrage.surrounds import Kind, offered
from cadrage.values import Exact
from server.studio.actions.people import Use
from server.studio.models import OwnFrame, OwnSettings


class Visitor(Schema):
    """The visitor, without a name if they came by a share link. `use` is set if a quota applies to them."""

    name: str
    signed_in: bool
    administrator: bool
    use: Use | None
    demonstration: bool
    folders: bool
    deliveries: list[str]


class OwnFrameOut(Schema):
    """A frame that the visitor has saved."""

    id: int
    frame: Frame
    shape: str

    @classmethod
    def of(cls, row: OwnFrame) -> "OwnFrameOut":
        """From its row."""
        return cls(id=row.pk, frame=row.value, shape=aspect_name(row.value.raster.display_aspect))


class OwnSettingsOut(Schema):
    """Settings that the visitor has saved."""

    id: int
    settings: Settings

    @classmethod
    def of(cls, row: OwnSettings) -> "OwnSettingsOut":
        """From their row."""
        return cls(id=row.pk, settings=row.value)


class Reason(Schema):
    """A reason to look at a framing, as the board filters by it."""

    reason: str
    title: str


class SourceRow(Schema):
    """A source format and the shape it makes."""

    format: SourceFormat
    shape: str


class FrameRow(Schema):
    """A frame that is offered and the shape it has."""

    format: FrameFormat
    shape: str


class Catalogue(Schema):
    """What there is to choose from."""

    frames: list[FrameRow]
    own: list[OwnFrameOut]
    sources: list[SourceRow]
    ratios: list[FilmRatio]
    squeezes: list[Exact]
    surrounds: list[Kind]
    finish: list[FinishPart]
    title: list[Control]
    captions: list[Control]
    reasons: list[Reason]
    choices: Choices
    files: list[FileOffer]
    fitting: Setting
    settings: list[Settings]
    own_settings: list[OwnSettingsOut]

    @classmethod
    def of(cls, own: list[OwnFrame], own_settings: list[OwnSettings]) -> "Catalogue":
        """With a visitor's own frames and settings."""
        return cls(
            frames=[FrameRow(format=row, shape=aspect_name(row.frame.raster.display_aspect)) for row in FRAME_FORMATS],
            own=[OwnFrameOut.of(row) for row in own],
            sources=[SourceRow(format=row, shape=aspect_name(row.raster.display_aspect)) for row in SOURCES],
            ratios=list(FILM_RATIOS),
            squeezes=list(SQUEEZES),
            surrounds=list(offered()),
            finish=list(offered_parts()),
            title=list(title_controls()),
            captions=list(caption_controls()),
            reasons=[Reason(reason=reason, title=title) for reason, title in REASONS.items()],
            choices=CHOICES,
            files=list(offered_files()),
            fitting=FITTING,
            settings=list(SHIPPED_SETTINGS),
            own_settings=[OwnSettingsOut.of(row) for row in own_settings],
        )
