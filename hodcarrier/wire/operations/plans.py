"""Operations on plans, and on access to sites that are not public."""

from hodcarrier.wire.operations.operation import Operation
from hodcarrier.wire.plans import (
    AccessBody,
    AccessOut,
    PlanBody,
    PlanCopy,
    PlanOut,
    PlanToml,
    PreviewBody,
    PreviewRow,
    SettingOut,
)

SITE = "/sites/{site_id}"
OPERATIONS = (
    Operation(
        "list_plan_settings",
        "GET",
        "/plan-settings",
        "What every setting of a plan means, in the order of the form.",
        list[SettingOut],
    ),
    Operation("get_plan", "GET", SITE + "/plan", "A site's plan.", PlanOut),
    Operation("change_plan", "PATCH", SITE + "/plan", "Change a plan; future runs use it.", PlanOut, PlanBody, versioned=True),
    Operation(
        "preview_plan",
        "POST",
        SITE + "/plan/preview",
        "Try values of a plan on URLs before saving them.",
        list[PreviewRow],
        PreviewBody,
    ),
    Operation(
        "get_plan_toml", "GET", SITE + "/plan/toml", "A plan as TOML: the settings that differ from their defaults.", PlanToml
    ),
    Operation(
        "replace_plan",
        "PUT",
        SITE + "/plan/toml",
        "Replace a plan by one in TOML; settings it does not name get their defaults.",
        PlanOut,
        PlanToml,
    ),
    Operation(
        "copy_plan",
        "POST",
        SITE + "/plan/copy",
        "Copy another site's plan, except what belongs to that site alone.",
        PlanOut,
        PlanCopy,
    ),
    Operation("get_access", "GET", SITE + "/access", "What kinds of access a site has; never a secret.", AccessOut),
    Operation(
        "set_access",
        "PUT",
        SITE + "/access",
        "Keep what opens a site: a password, headers, cookies. They are sealed, and sent to the site's own hosts alone.",
        AccessOut,
        AccessBody,
    ),
    Operation("remove_access", "DELETE", SITE + "/access", "Forget what opens a site."),
)
