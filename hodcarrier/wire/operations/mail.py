"""Operations on mails."""

from hodcarrier.core.states import DeliveryState
from hodcarrier.wire.deliveries import DeliveryOut
from hodcarrier.wire.operations.operation import Operation, Parameter

OPERATIONS = (
    Operation(
        "list_deliveries",
        "GET",
        "/deliveries",
        "Mails and what became of them, the latest first.",
        list[DeliveryOut],
        query=(Parameter("state", DeliveryState | None, None), Parameter("limit", int, 100)),
    ),
    Operation(
        "send_again",
        "POST",
        "/deliveries/{delivery_id}/again",
        "Send a mail now that was given up or waits for its next attempt.",
        DeliveryOut,
        status=202,
    ),
)
