"""Operations on the inventory of a run."""

from hodcarrier.core.states import InventoryKind, TableForm
from hodcarrier.wire.base import Listed
from hodcarrier.wire.inventory import ColumnOut, InventoryFigures, InventoryRow, InventoryView
from hodcarrier.wire.operations.operation import Operation, Parameter

INVENTORY = "/runs/{run_id}/inventory"
OF = Parameter("of", InventoryKind, InventoryKind.PAGE)
WHERE = Parameter("where", str, "")
COLUMNS = Parameter("columns", str, "")
SORT = Parameter("sort", str, "")
OPERATIONS = (
    Operation(
        "list_columns",
        "GET",
        "/inventory-columns",
        "The columns of the inventory, and how they are compared.",
        list[ColumnOut],
        query=(OF,),
    ),
    Operation("list_inventory_views", "GET", "/inventory-views", "Views of the inventory that ship.", list[InventoryView]),
    Operation(
        "list_inventory",
        "GET",
        INVENTORY,
        "Pages, files, URLs of other sites or links, with any columns. Filters are written out in `where`, or in short: `status=404`, `words.lt=200`.",
        Listed[InventoryRow],
        query=(OF, WHERE, COLUMNS, SORT, Parameter("limit", int, 100), Parameter("after", int, 0)),
        filters=True,
    ),
    Operation(
        "get_inventory_figures",
        "GET",
        INVENTORY + "/figures",
        "What a list of the inventory comes to: how many, sums, and how it is spread over the values of columns.",
        InventoryFigures,
        query=(OF, WHERE, COLUMNS, Parameter("by", str, "")),
        filters=True,
    ),
    Operation(
        "export_inventory",
        "GET",
        INVENTORY + "/export",
        "A list of the inventory as a table: all rows, with the columns asked for.",
        bytes,
        query=(OF, WHERE, COLUMNS, SORT, Parameter("form", TableForm, TableForm.CSV)),
        filters=True,
    ),
)
