"""Operations on the team's work: the desk, saved views, benchmarks."""

from hodcarrier.core.states import TableForm, ViewPlace
from hodcarrier.wire.benchmarks import (
    BenchmarkBody,
    BenchmarkBrief,
    BenchmarkChange,
    BenchmarkOut,
    RoundRow,
    RoundSchedule,
    RoundScheduleBody,
)
from hodcarrier.wire.changes import ChangesOut
from hodcarrier.wire.desk import DeskOut
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.views import ViewBody, ViewOut

OPERATIONS = (
    Operation(
        "watch_changes",
        "GET",
        "/changes",
        "Which lists have changed, as server-sent events: one whenever something was made, changed or removed. It ends after `seconds`.",
        bytes,
        query=(Parameter("seconds", int, 600),),
        events=ChangesOut,
    ),
    Operation("get_desk", "GET", "/desk", "What needs attention today.", DeskOut),
    Operation(
        "acknowledge_alert",
        "POST",
        "/desk/alerts/{alert_id}/acknowledge",
        "Take what a run changed for the worse off the desk, until further findings come.",
    ),
    Operation(
        "list_views",
        "GET",
        "/views",
        "Saved views: one's own and those that others share.",
        list[ViewOut],
        query=(Parameter("place", ViewPlace | None, None),),
    ),
    Operation("add_view", "POST", "/views", "Save the filters of a screen under a name.", ViewOut, ViewBody, status=201),
    Operation("remove_view", "DELETE", "/views/{view_id}", "Remove a saved view."),
    Operation("list_benchmarks", "GET", "/benchmarks", "All benchmarks.", list[BenchmarkBrief]),
    Operation("add_benchmark", "POST", "/benchmarks", "Set up a benchmark.", BenchmarkBrief, BenchmarkBody, status=201),
    Operation("get_benchmark", "GET", "/benchmarks/{benchmark_id}", "The latest round of a benchmark.", BenchmarkOut),
    Operation(
        "change_benchmark",
        "PATCH",
        "/benchmarks/{benchmark_id}",
        "Change the name, competitors or limits of a benchmark.",
        BenchmarkBrief,
        BenchmarkChange,
    ),
    Operation("remove_benchmark", "DELETE", "/benchmarks/{benchmark_id}", "Remove a benchmark with its rounds."),
    Operation(
        "set_round_schedule",
        "PUT",
        "/benchmarks/{benchmark_id}/schedule",
        "Set when rounds of a benchmark begin by themselves.",
        RoundSchedule,
        RoundScheduleBody,
    ),
    Operation(
        "remove_round_schedule", "DELETE", "/benchmarks/{benchmark_id}/schedule", "Let rounds begin only when somebody asks."
    ),
    Operation(
        "get_benchmark_trend",
        "GET",
        "/benchmarks/{benchmark_id}/trend",
        "A measure of every site over the rounds of a benchmark.",
        list[RoundRow],
        query=(Parameter("measure", str, "health"),),
    ),
    Operation(
        "export_benchmark",
        "GET",
        "/benchmarks/{benchmark_id}/export",
        "The measures of the latest round as a table; as a workbook with failing checks and what competitors have too.",
        bytes,
        query=(Parameter("form", TableForm, TableForm.XLSX),),
    ),
    Operation(
        "start_round", "POST", "/benchmarks/{benchmark_id}/rounds", "Run all sites of a benchmark now.", BenchmarkOut, status=202
    ),
)
