"""Review sheets.

Revision ID: 0037
Revises: 0036
"""

import sqlalchemy as sa
from alembic import op

revision = "0037"
down_revision = "0036"
branch_labels = None
depends_on = None


def _author() -> sa.Column[int]:
    return sa.Column("author_id", sa.Integer(), sa.ForeignKey("member.id"))


def _sheet(*, primary_key: bool = False) -> sa.Column[int]:
    owner = sa.ForeignKey("sheet.id", ondelete="CASCADE")
    return sa.Column("sheet_id", sa.Integer(), owner, nullable=False, primary_key=primary_key)


def upgrade() -> None:
    """What a person looks at, and what came of it."""
    op.create_table(
        "sheet_template",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("sections", sa.JSON(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
    )
    op.create_index("sheet_template_name", "sheet_template", [sa.text("name COLLATE NOCASE")], unique=True)
    op.create_table(
        "sheet",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("site_id", sa.Integer(), sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False),
        sa.Column("template", sa.String(40), nullable=False),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("sections", sa.JSON(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        _author(),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.UniqueConstraint("site_id", "template", "day"),
    )
    op.create_table(
        "sheet_answer",
        _sheet(primary_key=True),
        sa.Column("item", sa.String(80), primary_key=True),
        sa.Column("outcome", sa.String(20), nullable=False),
        sa.Column("number", sa.Float()),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("source", sa.String(200), nullable=False),
        _author(),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("todo_id", sa.Integer(), sa.ForeignKey("todo.id", ondelete="SET NULL")),
    )
    op.create_table(
        "sheet_file",
        sa.Column("id", sa.Integer(), primary_key=True),
        _sheet(),
        sa.Column("item", sa.String(80), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("media", sa.String(100), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        _author(),
        sa.Column("created_at", sa.DateTime(), nullable=False),
    )
    op.create_index("sheet_file_sheet", "sheet_file", ["sheet_id"])
    op.execute("INSERT INTO change_count (noun, number) VALUES ('sheets', 0)")
    for table in ("sheet_template", "sheet", "sheet_answer", "sheet_file"):
        for name, when in (("added", "INSERT"), ("changed", "UPDATE"), ("removed", "DELETE")):
            op.execute(
                f"CREATE TRIGGER {table}_{name} AFTER {when} ON {table} BEGIN"
                " UPDATE change_count SET number = number + 1 WHERE noun = 'sheets'; END"
            )


def downgrade() -> None:
    """Without them."""
    for table in ("sheet_file", "sheet_answer", "sheet", "sheet_template"):
        op.drop_table(table)
    op.execute("DELETE FROM change_count WHERE noun = 'sheets'")
