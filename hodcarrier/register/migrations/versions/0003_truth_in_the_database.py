"""What must be true is true in the database: one active run, one live to-do for a finding, one waiver for a scope, unique names.

Revision ID: 0003
Revises: 0002
"""

import fnmatch

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

NAMED = ("client", "benchmark", "member")


def upgrade() -> None:
    """Bring the register up. What contradicts itself is settled first: the older record stays as it is."""
    add = op.add_column
    add("member", sa.Column("date_order", sa.String(20), nullable=False, server_default="day-first"))
    op.execute("UPDATE member SET role = 'fixer' WHERE role IN ('writer', 'developer')")
    op.execute("UPDATE member SET role = 'analyst' WHERE role = 'account'")
    add("client", sa.Column("holidays", sa.JSON(), nullable=False, server_default="[]"))
    for table in NAMED:
        op.execute(
            f"UPDATE {table} SET name = name || ' (' || id || ')' WHERE EXISTS (SELECT 1 FROM {table} o"
            f" WHERE o.name = {table}.name COLLATE NOCASE AND o.id < {table}.id)"
        )
        op.execute(f"CREATE UNIQUE INDEX {table}_name ON {table} (name COLLATE NOCASE)")

    for column in (
        sa.Column("worker_id", sa.String(120)),
        sa.Column("lease_until", sa.DateTime()),
        sa.Column("attempts", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("stop_requested_at", sa.DateTime()),
    ):
        add("run", column)
    op.execute(
        "UPDATE run SET state = 'failed', reason = 'Another run of the site was under way.' WHERE state IN"
        " ('queued', 'crawling', 'examining') AND EXISTS (SELECT 1 FROM run o WHERE o.site_id = run.site_id AND"
        " o.purpose = run.purpose AND o.state IN ('queued', 'crawling', 'examining') AND"
        " (o.requested_at, o.id) < (run.requested_at, run.id))"
    )
    op.execute("CREATE UNIQUE INDEX run_active ON run (site_id, purpose) WHERE state IN ('queued', 'crawling', 'examining')")
    op.create_table(
        "run_progress",
        sa.Column("run_id", sa.String(20), sa.ForeignKey("run.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("figures", sa.JSON(), nullable=False),
    )

    with op.batch_alter_table("todo_finding") as batch:
        batch.add_column(sa.Column("site_id", sa.Integer(), nullable=True))
        batch.add_column(sa.Column("live", sa.Boolean(), nullable=False, server_default=sa.false()))
        batch.add_column(sa.Column("rule", sa.Text(), nullable=False, server_default=""))
    op.execute(
        "UPDATE todo_finding SET site_id = (SELECT site_id FROM todo WHERE todo.id = todo_id),"
        " live = (SELECT state IN ('open', 'doing', 'done') FROM todo WHERE todo.id = todo_id)"
    )
    op.execute(
        "DELETE FROM todo_finding WHERE live AND EXISTS (SELECT 1 FROM todo_finding o WHERE o.live AND"
        " o.site_id = todo_finding.site_id AND o.fingerprint = todo_finding.fingerprint AND o.todo_id < todo_finding.todo_id)"
    )
    op.execute("UPDATE todo SET places = (SELECT count(*) FROM todo_finding WHERE todo_id = todo.id) WHERE places > 0")
    with op.batch_alter_table("todo_finding") as batch:
        batch.alter_column("site_id", existing_type=sa.Integer(), nullable=False)
        batch.create_foreign_key("todo_finding_site", "site", ["site_id"], ["id"], ondelete="CASCADE")
    op.execute("CREATE UNIQUE INDEX todo_finding_live ON todo_finding (site_id, fingerprint) WHERE live")

    _one_language_of_patterns()
    add("waiver", sa.Column("replaced", sa.Boolean(), nullable=False, server_default=sa.false()))
    op.execute(
        "UPDATE waiver SET replaced = 1 WHERE EXISTS (SELECT 1 FROM waiver o WHERE o.site_id = waiver.site_id AND"
        " o.check_id = waiver.check_id AND o.pattern = waiver.pattern AND o.fingerprint = waiver.fingerprint AND o.id > waiver.id)"
    )
    op.execute("CREATE UNIQUE INDEX waiver_scope ON waiver (site_id, check_id, pattern, fingerprint) WHERE NOT replaced")
    add("benchmark_round", sa.Column("result", sa.JSON()))


def _one_language_of_patterns() -> None:
    """Waivers were shell patterns of whole URLs; those that would mean something else become regular expressions."""
    connection = op.get_bind()
    for row, pattern in connection.execute(sa.text("SELECT id, pattern FROM waiver WHERE pattern <> ''")).all():
        # A whole URL with no sign but * means the same in both languages.
        alike = pattern.startswith(("http://", "https://")) and not set(pattern) & set("?[")
        if not alike:
            values = {"id": row, "pattern": "regex:\\A" + fnmatch.translate(pattern)}
            connection.execute(sa.text("UPDATE waiver SET pattern = :pattern WHERE id = :id"), values)


def downgrade() -> None:
    """There is no way back: older releases know neither claims nor live findings."""
    raise NotImplementedError("restore the register from a backup made before the upgrade")
