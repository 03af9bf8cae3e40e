from django.db import migrations


class Migration(migrations.Migration):
    """Long work was once kept as runs, under the name that measured runs have."""

    dependencies = [("work", "0001_initial")]
    operations = [migrations.RunSQL("DROP TABLE IF EXISTS runs_run", migrations.RunSQL.noop)]
