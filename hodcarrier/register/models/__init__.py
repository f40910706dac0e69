"""The tables of the register, by noun."""

from hodcarrier.register.models.alerts import Alert
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.changes import ChangeCount
from hodcarrier.register.models.feeds import DomainCheck, DomainRecord, FigureFeed
from hodcarrier.register.models.people import LogEntry, Member, PasswordLink, SavedView, SignIn, Token
from hodcarrier.register.models.reports import (
    AgencyBrand,
    Logo,
    Report,
    ReportLink,
    ReportSchedule,
    ReportTemplate,
    ReportVersion,
)
from hodcarrier.register.models.runs import EXAMINED, EXAMINED_OR_FAILED, Run, RunProgress, SiteState
from hodcarrier.register.models.sheets import Sheet, SheetAnswer, SheetFile, SheetTemplate
from hodcarrier.register.models.sites import (
    ByRule,
    Client,
    ClientMember,
    FigureFile,
    Metric,
    Preset,
    Profile,
    Remark,
    Schedule,
    Site,
    SiteAccess,
    WaiverRow,
)
from hodcarrier.register.models.todo_things import RecurringTodo, TodoFile
from hodcarrier.register.models.todos import Todo, TodoEvent, TodoFinding, TodoLink, TodoMail, TodoWatcher
from hodcarrier.register.models.webhooks import Webhook, WebhookDelivery
from hodcarrier.register.models.work import Benchmark, BenchmarkRound, BenchmarkSchedule, Delivery, Feed, SitemapFeed

__all__ = [
    "EXAMINED",
    "EXAMINED_OR_FAILED",
    "AgencyBrand",
    "Alert",
    "Base",
    "Benchmark",
    "BenchmarkRound",
    "BenchmarkSchedule",
    "ByRule",
    "ChangeCount",
    "Client",
    "ClientMember",
    "Delivery",
    "DomainCheck",
    "DomainRecord",
    "Feed",
    "FigureFeed",
    "FigureFile",
    "LogEntry",
    "Logo",
    "Member",
    "Metric",
    "PasswordLink",
    "Preset",
    "Profile",
    "RecurringTodo",
    "Remark",
    "Report",
    "ReportLink",
    "ReportSchedule",
    "ReportTemplate",
    "ReportVersion",
    "Run",
    "RunProgress",
    "SavedView",
    "Schedule",
    "Sheet",
    "SheetAnswer",
    "SheetFile",
    "SheetTemplate",
    "SignIn",
    "Site",
    "SiteAccess",
    "SiteState",
    "SitemapFeed",
    "Todo",
    "TodoEvent",
    "TodoFile",
    "TodoFinding",
    "TodoLink",
    "TodoMail",
    "TodoWatcher",
    "Token",
    "WaiverRow",
    "Webhook",
    "WebhookDelivery",
]
