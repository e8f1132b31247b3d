"""What people may use of the server, and how they come to it."""

from django.conf import settings
from django.db import models

from server.studio.models.links import ExpiringLink


class Allowance(models.Model):
    """How much of the server somebody may use; what is null is as for everybody, see the settings."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="allowance")
    gigabytes = models.FloatField(null=True, default=None)
    renders = models.PositiveIntegerField(null=True, default=None)

    def __str__(self) -> str:
        return f"allowance of {self.person}"


class Invitation(ExpiringLink):
    """An address by which somebody makes an account for themselves, once."""

    administrator = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"invitation of {self.made:%Y-%m-%d}"
