"""Projects and the frames they must go into."""

from django.conf import settings
from django.db import models

from cadrage.formats import Frame
from cadrage.values import format_exact, parse_exact


class Project(models.Model):
    """A set of clips and the frames they must go into. Nobody but its owner sees it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="projects")
    name = models.CharField(max_length=120)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return self.name


class OrderedFrame(models.Model):
    """A frame of a project."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="frames")
    name = models.CharField(max_length=80)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    pixel_aspect = models.CharField(max_length=40, default="1")
    active = models.CharField(max_length=40, default="", blank=True)
    bar_colour = models.CharField(max_length=7, default="#000000")

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.name} {self.width}×{self.height}"

    @property
    def value(self) -> Frame:
        """The frame as the core has it."""
        return Frame(
            name=self.name,
            width=self.width,
            height=self.height,
            pixel_aspect=parse_exact(self.pixel_aspect),
            active=parse_exact(self.active) if self.active else None,
            bar_colour=self.bar_colour,
        )

    @classmethod
    def from_value(cls, project: Project, frame: Frame) -> "OrderedFrame":
        """A new row for a frame."""
        return cls(
            project=project,
            name=frame.name or f"{frame.width}×{frame.height}",
            width=frame.width,
            height=frame.height,
            pixel_aspect=format_exact(frame.pixel_aspect),
            active="" if frame.active is None else format_exact(frame.active),
            bar_colour=frame.bar_colour,
        )
