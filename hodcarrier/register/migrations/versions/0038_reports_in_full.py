"""Reports in full: templates, versions, approval, schedules, share links, brands.

Revision ID: 0038
Revises: 0037
"""

import sqlalchemy as sa
from alembic import op

revision = "0038"
down_revision = "0037"
branch_labels = None
depends_on = None

COUNTED = ("report_template", "report_schedule", "report_link", "agency_brand")


def _member(name: str) -> sa.Column[int]:
    return sa.Column(name, sa.Integer(), sa.ForeignKey("member.id"))


def _site() -> sa.Column[int]:
    return sa.Column("site_id", sa.Integer(), sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False)


def _report(*, primary_key: bool = False) -> sa.Column[int]:
    owner = sa.ForeignKey("report.id", ondelete="CASCADE")
    return sa.Column("report_id", sa.Integer(), owner, nullable=False, primary_key=primary_key)


def upgrade() -> None:
    """Reports that were made before are as good as approved: clients could read them."""
    op.create_table(
        "logo",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("media", sa.String(40), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
    )
    op.create_table(
        "agency_brand",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("colour", sa.String(7), nullable=False),
        sa.Column("typeface", sa.String(20), nullable=False),
        sa.Column("footer", sa.String(200), nullable=False),
        sa.Column("logo_id", sa.Integer(), sa.ForeignKey("logo.id")),
    )
    op.add_column("client", sa.Column("language", sa.String(10), nullable=False, server_default="en"))
    op.execute("ALTER TABLE client ADD COLUMN logo_id INTEGER REFERENCES logo (id)")
    op.create_table(
        "report_template",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("sections", sa.JSON(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
    )
    op.create_index("report_template_name", "report_template", [sa.text("name COLLATE NOCASE")], unique=True)
    op.create_table(
        "report_schedule",
        sa.Column("id", sa.Integer(), primary_key=True),
        _site(),
        sa.Column("template", sa.String(40), nullable=False),
        sa.Column("span", sa.String(20), nullable=False),
        sa.Column("working_day", sa.Integer(), nullable=False),
        sa.Column("at", sa.String(8), nullable=False),
        sa.Column("zone", sa.String(60), nullable=False),
        sa.Column("recipients", sa.JSON(), nullable=False),
        sa.Column("subject", sa.String(200), nullable=False),
        sa.Column("cover", sa.Text(), nullable=False),
        _member("owner_id"),
        sa.Column("next_due_at", sa.DateTime()),
        sa.Column("paused_at", sa.DateTime()),
        sa.Column("trouble", sa.Text(), nullable=False),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.UniqueConstraint("site_id", "template", "span"),
    )
    op.create_index("report_schedule_due", "report_schedule", ["next_due_at"], sqlite_where=sa.text("paused_at IS NULL"))
    for column in (
        sa.Column("language", sa.String(10), nullable=False, server_default="en"),
        sa.Column("template", sa.String(40), nullable=False, server_default=""),
        sa.Column("sections", sa.JSON(), nullable=False, server_default="[]"),
        sa.Column("state", sa.String(20), nullable=False, server_default="approved"),
        sa.Column("version", sa.Integer(), nullable=False, server_default="1"),
        sa.Column("approved_version", sa.Integer()),
        sa.Column("approved_at", sa.DateTime()),
        sa.Column("sent_at", sa.DateTime()),
    ):
        op.add_column("report", column)
    op.execute("ALTER TABLE report ADD COLUMN approver_id INTEGER REFERENCES member (id)")
    op.execute("ALTER TABLE report ADD COLUMN schedule_id INTEGER REFERENCES report_schedule (id) ON DELETE SET NULL")
    op.execute("UPDATE report SET approved_version = 1, approved_at = created_at, approver_id = author_id")
    op.create_index("report_site", "report", ["site_id"])
    op.create_index(
        "report_schedule_span",
        "report",
        ["schedule_id", "from_day"],
        unique=True,
        sqlite_where=sa.text("schedule_id IS NOT NULL"),
    )
    op.create_table(
        "report_version",
        _report(primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("at", sa.DateTime(), nullable=False),
        _member("author_id"),
        sa.Column("what", sa.String(200), nullable=False),
        sa.Column("title", sa.String(300), nullable=False),
        sa.Column("from_day", sa.Date(), nullable=False),
        sa.Column("to_day", sa.Date(), nullable=False),
        sa.Column("language", sa.String(10), nullable=False),
        sa.Column("sections", sa.JSON(), nullable=False),
        sa.Column("values", sa.JSON(), nullable=False),
    )
    op.execute(
        'INSERT INTO report_version (report_id, number, at, author_id, what, title, from_day, to_day, language, sections, "values")'
        " SELECT id, 1, created_at, author_id, 'made', title, from_day, to_day, 'en', '[]', \"values\" FROM report"
    )
    op.create_table(
        "report_link",
        sa.Column("id", sa.Integer(), primary_key=True),
        _report(),
        sa.Column("name", sa.String(100), nullable=False),
        sa.Column("email", sa.String(320), nullable=False),
        sa.Column("secret_hash", sa.String(64), nullable=False, unique=True),
        sa.Column("passphrase_hash", sa.String(200), nullable=False),
        _member("author_id"),
        sa.Column("created_at", sa.DateTime(), nullable=False),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
        sa.Column("revoked_at", sa.DateTime()),
        sa.Column("seen", sa.Integer(), nullable=False),
        sa.Column("seen_at", sa.DateTime()),
    )
    op.create_index("report_link_report", "report_link", ["report_id"])
    op.execute("ALTER TABLE delivery ADD COLUMN report_id INTEGER REFERENCES report (id) ON DELETE SET NULL")
    for table in COUNTED:
        for name, when in (("added", "INSERT"), ("changed", "UPDATE"), ("removed", "DELETE")):
            op.execute(
                f"CREATE TRIGGER {table}_{name} AFTER {when} ON {table} BEGIN"
                " UPDATE change_count SET number = number + 1 WHERE noun = 'reports'; END"
            )


def downgrade() -> None:
    """Without them."""
    op.drop_column("delivery", "report_id")
    for table in ("report_link", "report_version"):
        op.drop_table(table)
    for index in ("report_schedule_span", "report_site"):
        op.drop_index(index, "report")
    for column in (
        "schedule_id",
        "sent_at",
        "approver_id",
        "approved_at",
        "approved_version",
        "version",
        "state",
        "sections",
        "template",
        "language",
    ):
        op.drop_column("report", column)
    for table in ("report_schedule", "report_template"):
        op.drop_table(table)
    op.drop_column("client", "logo_id")
    op.drop_column("client", "language")
    for table in ("agency_brand", "logo"):
        op.drop_table(table)
