"""Operations on profiles."""

from hodcarrier.wire.operations.operation import Operation
from hodcarrier.wire.profiles import ProfileBody, ProfileChange, ProfileOut

ONE = "/profiles/{profile_id}"
OPERATIONS = (
    Operation("list_profiles", "GET", "/profiles", "Profiles with the sites that use them.", list[ProfileOut]),
    Operation("get_profile", "GET", ONE, "A profile: what it switches off, limits and severities.", ProfileOut),
    Operation("add_profile", "POST", "/profiles", "Add a profile.", ProfileOut, ProfileBody, status=201),
    Operation(
        "change_profile",
        "PATCH",
        ONE,
        "Change a profile; future runs of its sites use it.",
        ProfileOut,
        ProfileChange,
        versioned=True,
    ),
    Operation("remove_profile", "DELETE", ONE, "Remove a profile that no site uses."),
)
