"""What a site serves to another user agent: a run beside its audits, fetched as a browser would be or with our own user agent."""

from __future__ import annotations

import secrets
from dataclasses import replace

from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import Appearance, RunPurpose, RunState
from hodcarrier.register.models import Member, Run, Site
from hodcarrier.usecases.profiles import judged_plan
from hodcarrier.usecases.run_brief import run_brief
from hodcarrier.usecases.runs import activate
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.runs import RunBrief


def fetch_as(work: Workspace, site_id: int, appearance: Appearance, member: Member) -> RunBrief:
    """Ask for a run of a site under its plan but for the user agent, to be compared with its latest audit. It changes nothing that audits say.

    Raises :class:`Conflict` when the plan has that user agent already, while another such run waits or runs, and when the client is archived.
    """
    now = work.now()
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if site.archived:
            raise Conflict(f"{site.client.name} is archived, so {site.host} is not fetched.", "Restore the client first.")
        plan = judged_plan(site)
        if plan.appearance == appearance:
            raise Conflict(
                f"Audits of {site.host} use this user agent already.", "Choose another user agent, or run an audit as usual."
            )
        run = Run(
            id=secrets.token_hex(5),
            site_id=site_id,
            state=RunState.QUEUED,
            purpose=RunPurpose.USER_AGENT,
            appearance=appearance,
            plan=replace(plan, appearance=appearance),
            requested_at=now,
        )
        activate(session, site, run)
        log(session, now, member.id, "run queued", f"{site.host}, user agent {appearance}")
        return run_brief(run)
