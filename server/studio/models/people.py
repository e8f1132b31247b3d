"""What people may use of the server, and how they come to it."""

from django.conf import settings
from django.db import models

from server.studio.models.links import ExpiringLink
from server.studio.models.project import Project
from server.studio.models.sharing import Member


class Allowance(models.Model):
    """Limits of a person on the server; null is the server default, see the settings."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="allowance")
    gigabytes = models.FloatField(null=True, default=None)
    renders = models.PositiveIntegerField(null=True, default=None)

    def __str__(self) -> str:
        return f"allowance of {self.person}"


class Invitation(ExpiringLink):
    """An address at which a new person makes an account, once; `project` is then shared with them."""

    administrator = models.BooleanField(default=False)
    project = models.ForeignKey(Project, models.CASCADE, null=True, related_name="invitations")
    role = models.CharField(max_length=4, choices=Member.Role.choices, default=Member.Role.SEE)

    def __str__(self) -> str:
        return f"invitation of {self.made:%Y-%m-%d}"
