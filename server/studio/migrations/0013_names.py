"""Names that the field knows at sight: frames of a project, and what is known of media."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("studio", "0012_jobs")]
    operations = [
        migrations.RenameModel("OrderedFrame", "ProjectFrame"),
        migrations.RenameField("footage", "facts_json", "info_json"),
        migrations.RenameField("material", "facts_json", "info_json"),
    ]
