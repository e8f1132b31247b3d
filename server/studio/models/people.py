"""What people may use of the server, and how they come to it."""

import secrets

from django.conf import settings
from django.db import models
from django.utils import timezone


class Allowance(models.Model):
    """How much of the server somebody may use; what is null is as for everybody, see the settings."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="allowance")
    gigabytes = models.FloatField(null=True, default=None)
    renders = models.PositiveIntegerField(null=True, default=None)

    def __str__(self) -> str:
        return f"allowance of {self.person}"


def _token() -> str:
    return secrets.token_urlsafe(24)


class GoodInvitations(models.Manager["Invitation"]):
    """Invitations that can be followed now."""

    def get_queryset(self) -> models.QuerySet["Invitation"]:
        """Those."""
        return super().get_queryset().filter(expires__gt=timezone.now())


class Invitation(models.Model):
    """An address by which somebody makes an account for themselves, once."""

    token = models.CharField(max_length=60, unique=True, default=_token)
    administrator = models.BooleanField(default=False)
    made = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()

    objects = models.Manager()
    good = GoodInvitations()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"invitation of {self.made:%Y-%m-%d}"
