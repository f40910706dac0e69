"""What a site serves to another user agent: a run beside its audits, fetched as a browser would be or with our own user agent."""

from __future__ import annotations

from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import Appearance, RunPurpose
from hodcarrier.register.models import Member, Site
from hodcarrier.usecases.runs import queue_in
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.runs import RunBrief


def fetch_as(work: Workspace, site_id: int, appearance: Appearance, member: Member) -> RunBrief:
    """Ask for a run of a site under its plan but for the user agent, to be compared with its latest audit. It changes nothing that audits say.

    Raises :class:`Conflict` when the plan has that user agent already, while another such run waits or runs, and when the client is archived.
    """
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if site.plan.appearance == appearance:
            raise Conflict(
                f"Audits of {site.host} use this user agent already.", "Choose another user agent, or run an audit as usual."
            )
        return queue_in(work, session, site_id, member, RunPurpose.USER_AGENT, appearance=appearance)
