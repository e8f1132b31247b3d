"""Rows that can be removed, and brought back for a while."""

from typing import TypeVar

from django.db import models

R = TypeVar("R", bound=models.Model)


class Present(models.Manager[R]):
    """Those that have not been removed."""

    def get_queryset(self) -> models.QuerySet[R]:
        """Those."""
        return super().get_queryset().filter(removed__isnull=True)
