"""Operations on runs and on what they found."""

from hodcarrier.core.states import Change, CheckOutcome, ComparedList, PartKind, RunPurpose, Severity
from hodcarrier.wire.base import Listed
from hodcarrier.wire.comparisons import ColumnsOut, ComparedPart, ComparisonOut, LookBody, LookOut, PageChange
from hodcarrier.wire.histories import FindingHistory, PageHistory
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, FindingRow, PageOut
from hodcarrier.wire.runs import ExamineBody, RunBrief, RunOut

RUN = "/runs/{run_id}"
PAIR = (Parameter("base", str), Parameter("head", str))
OPERATIONS = (
    Operation(
        "list_runs",
        "GET",
        "/runs",
        "Runs, the latest first.",
        Listed[RunBrief],
        query=(
            Parameter("site", int | None, None),
            Parameter("purpose", RunPurpose | None, None),
            Parameter("limit", int, 100),
            Parameter("after", int, 0),
        ),
    ),
    Operation("start_run", "POST", "/sites/{site_id}/runs", "Audit a site now.", RunBrief, status=202),
    Operation("get_run", "GET", RUN, "A run with its summary or progress.", RunOut),
    Operation(
        "watch_run",
        "GET",
        RUN + "/events",
        "The run as server-sent events: one whenever its state or progress changes, the last when it has ended.",
        bytes,
        events=RunOut,
    ),
    Operation("stop_run", "POST", RUN + "/stop", "Stop a run; what was fetched is still examined.", RunOut, status=202),
    Operation("resume_run", "POST", RUN + "/resume", "Resume a run that broke off, from its last batch.", RunBrief, status=202),
    Operation(
        "examine_again",
        "POST",
        RUN + "/examine",
        "Re-examine a run with other settings or a newer catalogue, without crawling again. The result is a run of its own.",
        RunBrief,
        ExamineBody,
        status=202,
    ),
    Operation(
        "list_checks",
        "GET",
        RUN + "/checks",
        "Checks with an outcome, in the order of work; those that failed, waived or not, when none is named.",
        list[CheckRow],
        query=(Parameter("outcome", CheckOutcome | None, None),),
    ),
    Operation("get_check", "GET", RUN + "/checks/{check_id}", "One check in a run with its causes.", CheckOnSite),
    Operation(
        "list_causes",
        "GET",
        RUN + "/causes",
        "Causes, the most valuable first.",
        list[CauseRow],
        query=(Parameter("check", str, ""), Parameter("limit", int, 200), Parameter("after", int, 0)),
    ),
    Operation(
        "list_findings",
        "GET",
        RUN + "/findings",
        "Findings with their evidence.",
        Listed[FindingRow],
        query=(
            Parameter("check", str, ""),
            Parameter("cause", int | None, None),
            Parameter("severity", Severity | None, None),
            Parameter("waived", bool | None, False),
            Parameter("limit", int, 100),
            Parameter("after", int, 0),
        ),
    ),
    Operation(
        "get_finding",
        "GET",
        RUN + "/findings/{fingerprint}",
        "One finding with its line in the source, the element as written, and the fix as code where it can be shown.",
        FindingRow,
    ),
    Operation(
        "get_finding_history",
        "GET",
        "/sites/{site_id}/history/findings/{fingerprint}",
        "What each run of a site saw of one finding, the latest first.",
        FindingHistory,
        query=(Parameter("limit", int, 30),),
    ),
    Operation(
        "get_page_history",
        "GET",
        "/sites/{site_id}/history/page",
        "One page as each run of a site saw it, the latest first, with what changed.",
        PageHistory,
        query=(Parameter("url", str), Parameter("limit", int, 30)),
    ),
    Operation("get_page", "GET", RUN + "/page", "Everything known of one URL.", PageOut, query=(Parameter("url", str),)),
    Operation(
        "export_run",
        "GET",
        RUN + "/export/{form}",
        "All findings as `csv`, `json` or `sarif`, or the run `file` itself.",
        bytes,
    ),
    Operation(
        "compare_runs",
        "GET",
        "/comparisons",
        "Two runs of one site side by side.",
        ComparisonOut,
        query=(
            *PAIR,
            Parameter("change", Change | None, None),
            Parameter("check", str, ""),
            Parameter("event", int | None, None),
            Parameter("part", int | None, None),
            Parameter("limit", int, 200),
            Parameter("after", int, 0),
        ),
    ),
    Operation(
        "list_compared_parts",
        "GET",
        "/comparisons/parts",
        "The causes, pages, folders or templates of which findings differ between two runs.",
        Listed[ComparedPart],
        query=(*PAIR, Parameter("by", PartKind), Parameter("limit", int, 200), Parameter("after", int, 0)),
    ),
    Operation(
        "list_page_changes",
        "GET",
        "/comparisons/changes",
        "The pages, or files, that one edit changed between two runs.",
        Listed[PageChange],
        query=(*PAIR, Parameter("group", int), Parameter("limit", int, 200), Parameter("after", int, 0)),
    ),
    Operation(
        "list_compared_urls",
        "GET",
        "/comparisons/urls",
        "URLs that came or went between two runs: pages, files, sitemap entries, pages newly blocked.",
        Listed[str],
        query=(*PAIR, Parameter("which", ComparedList), Parameter("limit", int, 200), Parameter("after", int, 0)),
    ),
    Operation(
        "compare_columns",
        "GET",
        "/comparisons/columns",
        "Any number of runs of one site side by side: health, areas, severities and checks.",
        ColumnsOut,
        query=(Parameter("runs", str),),
    ),
    Operation(
        "look_at_page",
        "POST",
        "/sites/{site_id}/look",
        "Fetch and examine one page now and compare it with the last run, which stays as it is.",
        LookOut,
        LookBody,
    ),
)
