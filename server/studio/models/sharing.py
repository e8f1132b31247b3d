"""People and links that a project is shared with."""

from django.conf import settings
from django.db import models

from server.studio.models.links import ExpiringLink, Good
from server.studio.models.project import Project


class Member(models.Model):
    """A person with whom a project is shared."""

    class Role(models.TextChoices):
        """The role of the person."""

        SEE = "see"
        WORK = "work"

    project = models.ForeignKey(Project, models.CASCADE, related_name="members")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=4, choices=Role.choices)
    since = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["project", "person"], name="once_a_member")]

    def __str__(self) -> str:
        return f"{self.person} in {self.project}"


class GoodLooks(Good):
    """Links that open something now: to a project that is there."""

    def get_queryset(self) -> "models.QuerySet[ExpiringLink]":
        """Those."""
        return super().get_queryset().filter(project__removed=None)


class LookLink(ExpiringLink):
    """An address that shows a project to anyone who has it."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="links")
    downloads = models.BooleanField(default=False)

    good = GoodLooks()

    def __str__(self) -> str:
        return f"link to {self.project}"
