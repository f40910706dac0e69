"""Webhooks: other programs that are told of things, and what they are told."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, Field

from hodcarrier.core.states import DeliveryState, Severity, Topic
from hodcarrier.wire.base import Wire, Words
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.todos import TodoOut

# What each topic is about, in the order the documentation lists them.
TOPICS: dict[Topic, str] = {
    Topic.TODO_ADDED: "A to-do was made.",
    Topic.TODO_CHANGED: "A to-do was changed by a member: its state, assignee, due date, or anything else that is written on it.",
    Topic.TODO_COMMENTED: "A member commented on a to-do.",
    Topic.TODO_CONFIRMED: "A run, or a look at its places, confirmed a to-do.",
    Topic.TODO_REOPENED: "A run opened a to-do again, because its findings are still there or back.",
    Topic.RUN_STARTED: "A worker began a run.",
    Topic.RUN_DONE: "A run has ended well.",
    Topic.RUN_STOPPED: "A run was stopped by a member; what was fetched is examined.",
    Topic.RUN_FAILED: "A run failed; `reason` says why.",
    Topic.COMPARISON_READY: "A run has been compared with the one before it.",
    Topic.ALERT_RAISED: "A run found new findings of a critical or high check.",
    Topic.ALERT_CLEARED: "No finding of an alert is left.",
    Topic.WEBHOOK_TEST: "Somebody tries the webhook out.",
}


def _each_once(topics: list[Topic]) -> list[Topic]:
    return list(dict.fromkeys(topics))


Topics = Annotated[list[Topic], AfterValidator(_each_once)]


class WebhookBody(Wire):
    """A new webhook."""

    name: Words = Field(min_length=1, max_length=100)
    url: str = Field(max_length=2000)
    topics: Topics = Field(default_factory=list)
    client_id: int | None = None


class WebhookChange(Wire):
    """Changes to a webhook; what is left out stays."""

    name: Words | None = Field(default=None, min_length=1, max_length=100)
    url: str | None = Field(default=None, max_length=2000)
    topics: Topics | None = None
    client_id: int | None = None
    active: bool | None = None


class WebhookOut(Wire):
    """A webhook; ``secret`` is there only in the answer that made it."""

    id: int
    name: str
    url: str
    topics: list[Topic]
    client_id: int | None
    client_name: str
    active: bool
    waiting: int
    given_up: int
    paused_until: datetime | None
    last_at: datetime | None
    last_error: str
    created_at: datetime
    secret: str | None = None


class WebhookDeliveryOut(Wire):
    """Something that a webhook was told, or is to be told. ``body`` is the JSON that is sent."""

    id: int
    message_id: str
    topic: Topic
    at: datetime
    state: DeliveryState
    attempts: int
    sent_at: datetime | None
    status: int | None
    error: str
    body: str


class TodoNews(Wire):
    """What happened to a to-do. ``by`` is empty for what a run did."""

    todo: TodoOut
    text: str
    by: str
    url: str = ""


class RunNews(Wire):
    """What became of a run."""

    run: RunBrief
    client_name: str
    url: str = ""


class ComparisonNews(Wire):
    """How a run differs from the one before it."""

    site_id: int
    site_host: str
    client_name: str
    base_id: str
    head_id: str
    health_change: float | None
    sentence: str
    counts: dict[str, int]
    url: str = ""


class AlertNews(Wire):
    """An alert."""

    site_id: int
    site_host: str
    client_name: str
    check: str
    severity: Severity
    summary: str
    detail: str
    findings: int
    url: str = ""


class TestNews(Wire):
    """Nothing has happened: somebody tries the webhook out."""

    text: str
    url: str = ""


class Message(Wire):
    """What a webhook is sent."""

    type: Topic
    timestamp: datetime


class TodoMessage(Message):
    """What a webhook is sent about a to-do."""

    data: TodoNews


class RunMessage(Message):
    """What a webhook is sent about a run."""

    data: RunNews


class ComparisonMessage(Message):
    """What a webhook is sent about a comparison."""

    data: ComparisonNews


class AlertMessage(Message):
    """What a webhook is sent about an alert."""

    data: AlertNews


class TestMessage(Message):
    """What a webhook is sent when somebody tries it out."""

    data: TestNews


def message_of(topic: Topic) -> type[Message]:
    """The kind of message that tells of a topic."""
    return _MESSAGES[topic.partition(".")[0]]


_MESSAGES: dict[str, type[Message]] = {
    "todo": TodoMessage,
    "run": RunMessage,
    "comparison": ComparisonMessage,
    "alert": AlertMessage,
    "webhook": TestMessage,
}
