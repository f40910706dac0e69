"""Operations on webhooks."""

from hodcarrier.core.states import DeliveryState
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.webhooks import WebhookBody, WebhookChange, WebhookDeliveryOut, WebhookOut

OPERATIONS = (
    Operation("list_webhooks", "GET", "/webhooks", "Webhooks, with how their messages fare.", list[WebhookOut]),
    Operation(
        "add_webhook",
        "POST",
        "/webhooks",
        "Make a webhook; its secret is shown in this answer only.",
        WebhookOut,
        WebhookBody,
        status=201,
    ),
    Operation(
        "change_webhook", "PATCH", "/webhooks/{webhook_id}", "Change a webhook, or switch it off.", WebhookOut, WebhookChange
    ),
    Operation("remove_webhook", "DELETE", "/webhooks/{webhook_id}", "Remove a webhook and its log."),
    Operation(
        "renew_secret",
        "POST",
        "/webhooks/{webhook_id}/secret",
        "Make a new secret, shown in this answer only; for a day the old one signs too.",
        WebhookOut,
    ),
    Operation(
        "try_webhook",
        "POST",
        "/webhooks/{webhook_id}/test",
        "Send a webhook a message that only tries it out.",
        WebhookDeliveryOut,
        status=202,
    ),
    Operation(
        "list_messages",
        "GET",
        "/webhooks/{webhook_id}/messages",
        "What a webhook was told in the last thirty days and is to be told, the latest first.",
        list[WebhookDeliveryOut],
        query=(Parameter("state", DeliveryState | None, None), Parameter("limit", int, 100)),
    ),
    Operation(
        "send_message_again",
        "POST",
        "/webhooks/{webhook_id}/messages/{message}/again",
        "Send a message once more, under the same id.",
        WebhookDeliveryOut,
        status=202,
    ),
)
