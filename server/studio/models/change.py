"""What people changed in a project, in the order in which they did it."""

from django.conf import settings
from django.core.serializers.json import DjangoJSONEncoder
from django.db import models

from server.studio.models.project import Project


class Change(models.Model):
    """One thing that a person did in a project.

    `before_json` and `after_json` hold the values that it changed, by `model:id` and by field; null in place of the
    fields stands for a row that is not there. Of a framing they hold the id of its step. Changes with the same `batch`
    that follow one another are one.
    """

    project = models.ForeignKey(Project, models.CASCADE, related_name="changes")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="changes")
    label = models.CharField(max_length=80)
    batch = models.CharField(max_length=40, blank=True, default="")
    before_json = models.JSONField(encoder=DjangoJSONEncoder)
    after_json = models.JSONField(encoder=DjangoJSONEncoder)
    undone = models.BooleanField(default=False)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["project", "person", "undone"], name="changes_of_a_person")]

    def __str__(self) -> str:
        return f"{self.label} in {self.project}"
