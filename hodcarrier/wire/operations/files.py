"""Operations on run files."""

from hodcarrier.wire.files import RetentionBody, RetentionOut
from hodcarrier.wire.operations.operation import Operation, Parameter

OPERATIONS = (
    Operation(
        "get_retention",
        "GET",
        "/retention",
        "What keeping the files of so many weeks, and then one a month, would free.",
        RetentionOut,
        query=(Parameter("weeks", int, 26),),
    ),
    Operation(
        "apply_retention",
        "POST",
        "/retention",
        "Remove the files that a rule of retention lets go. The runs keep their figures.",
        RetentionOut,
        RetentionBody,
    ),
)
