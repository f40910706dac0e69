"""Columns of the inventory, and how they are compared."""

from __future__ import annotations

from enum import StrEnum


class InventoryKind(StrEnum):
    """What a list of the inventory is of: addresses by their role, or the references that pages make."""

    PAGE = "page"
    FILE = "file"
    EXTERNAL = "external"
    LINK = "link"


class BranchKind(StrEnum):
    """What the pages of a site are gathered by."""

    FOLDER = "folder"
    HOST = "host"
    LANGUAGE = "language"
    TEMPLATE = "template"


class ColumnKind(StrEnum):
    """What a column holds, and so how it is compared."""

    TEXT = "text"
    NUMBER = "number"
    FLAG = "flag"
    DAY = "day"


class ColumnTotal(StrEnum):
    """What stands under a column of figures."""

    NONE = ""
    SUM = "sum"
    AVERAGE = "average"


class ColumnGroup(StrEnum):
    """Where a column stands among the others."""

    URL = "URL"
    LINK = "Link"
    ANSWER = "Answer"
    INDEXING = "Indexing"
    PLACE = "Place in the site"
    CONTENT = "Content"
    DATA = "Structured data and previews"
    BUILD = "Build"
    FINDINGS = "Findings"
    OUTSIDE = "From outside"


class Operator(StrEnum):
    """How a column is compared in a filter."""

    IS = "="
    IS_NOT = "!="
    LESS = "<"
    MOST = "<="
    MORE = ">"
    LEAST = ">="
    BETWEEN = "between"
    IN = "in"
    CONTAINS = "contains"
    STARTS = "starts with"
    ENDS = "ends with"
    MATCHES = "matches"
    EMPTY = "is empty"
