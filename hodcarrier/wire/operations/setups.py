"""Operations on how sites are set up: presets, changes to several sites, the week of runs."""

from datetime import date

from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.presets import PresetBody, PresetChange, PresetOut, SiteDraft, SitesChange, SitesChanged, SitesPick
from hodcarrier.wire.week import WeekOut

OPERATIONS = (
    Operation("list_presets", "GET", "/presets", "Presets by name.", list[PresetOut]),
    Operation("add_preset", "POST", "/presets", "Add a preset.", PresetOut, PresetBody, status=201),
    Operation(
        "change_preset",
        "PATCH",
        "/presets/{preset_id}",
        "Change a preset; sites that were set up with it stay as they are.",
        PresetOut,
        PresetChange,
        versioned=True,
    ),
    Operation("remove_preset", "DELETE", "/presets/{preset_id}", "Remove a preset."),
    Operation(
        "plan_site_changes",
        "POST",
        "/sites/changes/plan",
        "What settings, schedule and tags would become of several sites. Nothing is changed.",
        list[SiteDraft],
        SitesPick,
    ),
    Operation(
        "change_sites",
        "POST",
        "/sites/changes",
        "Change several sites, all of them or none; the answer holds the changes that undo it.",
        SitesChanged,
        SitesChange,
    ),
    Operation(
        "get_week",
        "GET",
        "/week",
        "The runs of some days: those that began, and those that are planned.",
        WeekOut,
        query=(
            Parameter("start", date | None, None, wire="from"),
            Parameter("days", int, 7),
            Parameter("client", int | None, None),
        ),
    ),
)
