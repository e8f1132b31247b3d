"""Addresses that give access to anyone who has them, until they expire."""

import secrets

from django.db import models
from django.utils import timezone


def token() -> str:
    """A random text that cannot be guessed."""
    return secrets.token_urlsafe(24)


class Good(models.Manager["ExpiringLink"]):
    """Those that give access now."""

    def get_queryset(self) -> "models.QuerySet[ExpiringLink]":
        """Those."""
        return super().get_queryset().filter(expires__gt=timezone.now())


class ExpiringLink(models.Model):
    """An address, by its token; taken back it is gone."""

    token = models.CharField(max_length=60, unique=True, default=token)
    made = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()

    objects = models.Manager()
    good = Good()

    class Meta:
        abstract = True
        ordering = ["id"]
