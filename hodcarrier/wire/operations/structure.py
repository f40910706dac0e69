"""Operations on how a site hangs together, and on what fixes would bring."""

from hodcarrier.core.states import BranchKind
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.site_files import SiteFileOut
from hodcarrier.wire.structure import FixesBody, FixesOut, StructureOut, TemplateLinksOut

OPERATIONS = (
    Operation(
        "get_structure",
        "GET",
        "/runs/{run_id}/structure",
        "The pages of a run by folder, host, language or template, with figures of each.",
        StructureOut,
        query=(Parameter("by", BranchKind, BranchKind.FOLDER), Parameter("below", str, "/")),
    ),
    Operation(
        "get_template_links",
        "GET",
        "/runs/{run_id}/structure/links",
        "How the templates of a run link to one another.",
        TemplateLinksOut,
    ),
    Operation(
        "list_site_files",
        "GET",
        "/runs/{run_id}/site-files",
        "robots.txt, sitemaps and certificates as a run met them, and since when they are so.",
        list[SiteFileOut],
    ),
    Operation(
        "plan_fixes",
        "POST",
        "/runs/{run_id}/fixes",
        "What checks and causes would bring if they were fixed together; nothing is stored.",
        FixesOut,
        FixesBody,
    ),
)
