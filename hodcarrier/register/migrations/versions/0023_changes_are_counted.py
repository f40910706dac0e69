"""Changes are counted by noun.

Revision ID: 0023
Revises: 0022
"""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None

# By noun: the tables, and which columns count where some are of no interest to lists.
TABLES = {
    "clients": {"client": ""},
    "sites": {"site": "", "site_access": "", "schedule": "", "site_state": ""},
    "runs": {"run": "state, reason, health, summary, changes, file, stop_requested_at"},
    "todos": {"todo": "", "todo_event": "", "todo_watcher": "", "todo_link": "name, revoked_at"},
    "alerts": {"alert": ""},
    "waivers": {"waiver": ""},
    "remarks": {"remark": ""},
    "metrics": {"metric": ""},
    "profiles": {"profile": ""},
    "benchmarks": {"benchmark": "", "benchmark_round": ""},
    "reports": {"report": ""},
    "members": {"member": "name, email, role, client_id, active, second_on"},
    "mails": {"delivery": ""},
    "webhooks": {"webhook": "", "webhook_delivery": ""},
}


def upgrade() -> None:
    """Counting begins."""
    op.create_table(
        "change_count",
        sa.Column("noun", sa.String(length=20), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("noun"),
    )
    for noun, tables in TABLES.items():
        op.execute(f"INSERT INTO change_count (noun, number) VALUES ('{noun}', 0)")
        for table, columns in tables.items():
            updated = f"UPDATE OF {columns}" if columns else "UPDATE"
            for name, when in (("added", "INSERT"), ("changed", updated), ("removed", "DELETE")):
                op.execute(
                    f"CREATE TRIGGER {table}_{name} AFTER {when} ON {table} BEGIN"
                    f" UPDATE change_count SET number = number + 1 WHERE noun = '{noun}'; END"
                )


def downgrade() -> None:
    """Nobody counts."""
    for tables in TABLES.values():
        for table in tables:
            for name in ("added", "changed", "removed"):
                op.execute(f"DROP TRIGGER {table}_{name}")
    op.drop_table("change_count")
