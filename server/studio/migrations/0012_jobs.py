"""Renders and analyses are jobs; what was found in clips lies in the folder of analyses."""

import time

import django.db.models.deletion
from django.db import migrations, models

import cadrage.analyses
from cadrage.analysis import Found, Subject
from cadrage.footage import ClipIdentity, Interpretation, MediaInfo

KINDS = {"bars": "bars_json", "fields": "fields_json", "quiet_copy": "copy_json"}


def keep_what_was_found(apps, schema_editor):
    """Move what was found to where it lies now; what was not is looked for again."""
    from server.studio.models.analysis import store

    Footage, Analysis, SourceRule = (apps.get_model("studio", name) for name in ("Footage", "Analysis", "SourceRule"))
    rules = {(rule.project_id, rule.format_key): rule.interpretation_json for rule in SourceRule.objects.all()}
    for row in Footage._base_manager.all():
        said = row.interpretation_json or rules.get((row.project_id, row.format_key)) or {}
        identity = ClipIdentity(digest=row.digest, fingerprint=row.fingerprint)
        info = MediaInfo.model_validate(row.facts_json)
        known = {}
        for kind, column in KINDS.items():
            analysis, found = cadrage.analyses.ANALYSES[kind], getattr(row, column)
            made = Analysis(footage=row, kind=kind, rank=time.time())
            if found is not None and identity.key:
                subject = Subject("", identity.key, info, Interpretation.model_validate(said), known)
                known[kind] = analysis.result.model_validate(found)
                request = analysis.request(subject)
                store.keep(request, Found(result=known[kind]))
                made.key, made.state, made.phase, made.done, made.total = request.key, "done", "", 100, 100
            made.save()
        if info.counted != "decoded":
            Analysis.objects.create(footage=row, kind="pictures", rank=time.time() + 1e9)


JOB = [
    ("state", models.CharField(choices=[(name, name.title()) for name in ("queued", "running", "paused", "done", "failed", "cancelled")], default="queued", max_length=10)),
    ("rank", models.FloatField(default=time.time)),
    ("phase", models.CharField(default="waiting", max_length=40)),
    ("done", models.PositiveIntegerField(default=0)),
    ("total", models.PositiveIntegerField(default=0)),
    ("attempts", models.PositiveIntegerField(default=0)),
    ("stalled_attempts", models.PositiveIntegerField(default=0)),
    ("cancel_asked", models.BooleanField(default=False)),
    ("pause_asked", models.BooleanField(default=False)),
    ("problem", models.TextField(default="")),
    ("remedy", models.TextField(default="")),
    ("finished", models.DateTimeField(null=True)),
]


class Migration(migrations.Migration):
    dependencies = [("studio", "0011_identifiers")]
    operations = [
        migrations.RenameField("render", "doing", "phase"),
        migrations.RenameField("render", "in_vain", "stalled_attempts"),
        migrations.AddField("render", "analyses_json", models.JSONField(default=dict)),
        migrations.AddIndex("render", models.Index(fields=["state", "rank"], name="renders_to_take")),
        migrations.CreateModel(
            "Analysis",
            [
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                *JOB,
                ("kind", models.CharField(max_length=40)),
                ("key", models.CharField(blank=True, db_index=True, default="", max_length=64)),
                (
                    "footage",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="analyses", to="studio.footage"
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
                "indexes": [models.Index(fields=["state", "rank"], name="analyses_to_take")],
                "constraints": [models.UniqueConstraint(fields=("footage", "kind"), name="one_analysis_a_kind")],
            },
        ),
        migrations.RunPython(keep_what_was_found, migrations.RunPython.noop),
        *(
            migrations.RemoveField("footage", name)
            for name in ("bars_json", "fields_json", "copy_json", "looked", "look_asked", "look_attempts")
        ),
    ]
