"""Who may look at a project or work in it besides its owner."""

import secrets

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.studio.models.project import Project


class Member(models.Model):
    """Somebody with whom a project is shared."""

    class Role(models.TextChoices):
        """What they may do."""

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


def _token() -> str:
    return secrets.token_urlsafe(24)


class GoodLinks(models.Manager["LookLink"]):
    """Links that open something now."""

    def get_queryset(self) -> models.QuerySet["LookLink"]:
        """Those."""
        return super().get_queryset().filter(expires__gt=timezone.now(), project__removed=None)


class LookLink(models.Model):
    """An address that lets whoever has it look at a project until it expires; revoked it is gone."""

    project = models.ForeignKey(Project, models.CASCADE, related_name="links")
    token = models.CharField(max_length=60, unique=True, default=_token)
    downloads = models.BooleanField(default=False)
    made = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()

    objects = models.Manager()
    good = GoodLinks()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"link to {self.project}"
