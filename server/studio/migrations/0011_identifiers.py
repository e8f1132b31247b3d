"""What is stored are identifiers, not what the interface says; plans, treatments and settings are of version 2."""

from django.db import migrations

from cadrage.upgrade import upgraded

STORED = {
    "Footage": ("facts_json", "interpretation_json", "bars_json", "fields_json", "copy_json"),
    "FramingRule": ("rule_json",),
    "OrderedFrame": ("frame_json", "settings_json"),
    "OwnFrame": ("frame_json",),
    "OwnSettings": ("settings_json",),
    "Render": ("plan_json", "settings_json"),
    "SourceRule": ("interpretation_json",),
    "Step": ("plan_json",),
    "Treatment": ("treatment_json",),
}


def upgrade(apps, schema_editor):
    for model, columns in STORED.items():
        rows = apps.get_model("studio", model)._base_manager
        for row in rows.only(*columns).iterator():
            now = {column: upgraded(getattr(row, column)) for column in columns}
            if any(getattr(row, column) != value for column, value in now.items()):
                rows.filter(pk=row.pk).update(**now)


class Migration(migrations.Migration):
    dependencies = [("studio", "0010_identity")]
    operations = [migrations.RunPython(upgrade, migrations.RunPython.noop)]
