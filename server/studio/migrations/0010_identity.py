"""Clips say which file they were, and renders which files they were ordered of."""

from pathlib import Path

from django.conf import settings
from django.db import migrations, models

from cadrage.errors import MissingSource
from cadrage.footage import ClipIdentity


def note_files(apps, schema_editor):
    """Files that are there are taken to be the ones that were taken in; nothing else is known of them."""
    Footage = apps.get_model("studio", "Footage")
    for row in Footage._base_manager.all():
        path = Path(row.linked) if row.linked else Path(settings.FOOTAGE_DIR) / row.file
        try:
            row.fingerprint = ClipIdentity.of(path).fingerprint
        except MissingSource:
            continue
        row.save(update_fields=["fingerprint"])


class Migration(migrations.Migration):
    dependencies = [("studio", "0009_seeing")]
    operations = [
        migrations.AddField("footage", "fingerprint", models.CharField(blank=True, default="", max_length=80)),
        migrations.AddField("render", "clips_json", models.JSONField(default=dict)),
        migrations.RunPython(note_files, migrations.RunPython.noop),
    ]
