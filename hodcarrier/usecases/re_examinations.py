"""Re-examinations: what a run has fetched is judged anew, beside the result that there is."""

from __future__ import annotations

import secrets
from dataclasses import replace
from typing import Any

from hodcarrier.core.errors import Conflict, InvalidPlan
from hodcarrier.core.plan import JUDGING, plan_values, read_plan
from hodcarrier.core.profile import under
from hodcarrier.core.states import RunPurpose, RunState
from hodcarrier.register.models import Member, Run
from hodcarrier.usecases.profiles import check_names, find_profile
from hodcarrier.usecases.run_brief import run_brief
from hodcarrier.usecases.runs import activate
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.runs import ExamineBody, RunBrief


def examine_again(work: Workspace, run_id: str, body: ExamineBody, member: Member) -> RunBrief:
    """Ask for a run's facts to be judged anew, under the settings that its site has now or others; gives the re-examination, a run of its own.

    Nothing is fetched. Of a re-examination the run is taken that it was made from: both have the same facts. Raises :class:`Conflict` when
    there is nothing to judge: the run was not examined, or its file is gone or of an earlier release.
    """
    with work.reading() as session:
        asked = fetch(session, Run, run_id, "run")
        run_id = asked.source_id or asked.id
    if not asked.examined:
        raise Conflict(f"Run {run_id} has no results yet.", "Wait until it has ended, or choose another run.")
    with work.open_run(run_id) as opened:
        if not opened.is_current:
            raise Conflict(
                f"The file of run {run_id} was written by an earlier release, whose runs lack facts that checks need now.",
                "Audit the site again; the run stays as it is.",
            )
    now = work.now()
    with work.session() as session:
        source = fetch(session, Run, run_id, "run")
        site = source.site
        chosen = site.profile if body.profile is None else find_profile(session, body.profile)
        judged = read_plan({**plan_values(site.plan), **_of_judgement(body.values)})
        check_names(judged.thresholds, (*judged.checks_off, *judged.severities))
        if chosen is not None:
            judged = under(judged, chosen.name, chosen.rules)
        run = Run(
            id=secrets.token_hex(5),
            site_id=source.site_id,
            state=RunState.QUEUED,
            purpose=RunPurpose.RE_EXAMINATION,
            plan=replace(source.plan, **{name: getattr(judged, name) for name in (*JUDGING, "profile")}),
            requested_at=now,
            source_id=source.id,
            base_id=source.id,
        )
        activate(session, site, run)
        log(session, now, member.id, "run examined again", f"{site.host}, run {source.id}")
        return run_brief(run)


def _of_judgement(values: dict[str, Any]) -> dict[str, Any]:
    """The values, if all of them are settings that judge. Raises :class:`InvalidPlan` naming one that decides what is fetched."""
    other = sorted(set(values) - set(JUDGING))
    if other:
        raise InvalidPlan(
            f"{other[0]} cannot be changed for a re-examination.", f"Settings that can: {', '.join(JUDGING)}.", other[0]
        )
    return values
