"""R'G'B' clips and stills are stored with the range that they are read with."""

from django.db import migrations

RGB = ("rgb", "bgr", "gbr", "argb", "abgr", "0rgb", "0bgr", "pal8", "gray", "ya", "mono")


def state_full_range(apps, schema_editor):
    """Until now these samples were read as full range whatever a file said, so that is what they go on as."""
    for name in ("Footage", "Material"):
        model = apps.get_model("studio", name)
        for row in model.objects.exclude(info_json=None).iterator():
            if str(row.info_json.get("pixel_format", "")).startswith(RGB) and not row.info_json["full_range"]:
                row.info_json["full_range"] = True
                row.save(update_fields=["info_json"])


class Migration(migrations.Migration):

    dependencies = [("studio", "0018_many_people")]

    operations = [migrations.RunPython(state_full_range, migrations.RunPython.noop)]
