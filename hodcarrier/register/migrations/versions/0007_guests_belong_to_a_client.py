"""A guest who may sign in belongs to a client: the register itself sees to it. Those of before who do not are switched off.

Revision ID: 0007
Revises: 0006
"""

from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

HOMELESS = "NEW.role = 'guest' AND NEW.active AND NEW.client_id IS NULL"


def upgrade() -> None:
    """Make the rule."""
    op.execute("UPDATE member SET active = 0 WHERE role = 'guest' AND client_id IS NULL")
    for when in ("INSERT", "UPDATE"):
        op.execute(
            f"CREATE TRIGGER member_guest_{when.lower()} BEFORE {when} ON member WHEN {HOMELESS}"
            " BEGIN SELECT RAISE(ABORT, 'a guest belongs to a client'); END"
        )


def downgrade() -> None:
    """Take it away."""
    for when in ("insert", "update"):
        op.execute(f"DROP TRIGGER member_guest_{when}")
