"""An example of every request, as the OpenAPI document shows it. A test reads each by its model."""

from __future__ import annotations

from typing import Any

BODIES: dict[str, Any] = {
    "AccessBody": {"username": "preview", "password": "a long password", "headers": {"X-Preview": "yes"}},
    "BenchmarkBody": {"name": "Tidewrack against the market", "site_id": 1, "competitor_ids": [2, 3], "pages_max": 500},
    "ClientBody": {"name": "Tidewrack Chandlery"},
    "ClientChange": {"holidays": ["2026-12-25", "2026-12-28"]},
    "ExamineBody": {"profile": "Shop", "values": {"thresholds": {"words_min": 120}}},
    "LookBody": {"url": "https://tidewrack.example/contact"},
    "MemberBody": {
        "name": "Oona Featherby",
        "email": "oona@cobble-lantern.example",
        "role": "fixer",
        "password": "a long password",
    },
    "MemberChange": {"role": "lead"},
    "MetricImport": {"csv": "day,name,value,source\n2026-11-01,Ranking keywords,412,own counting\n"},
    "PlanBody": {"values": {"rate_per_s": 2, "exclude": ["/basket*"], "thresholds": {"words_min": 120}}},
    "PlanCopy": {"from_site": 4},
    "PlanToml": {"toml": "rate_per_s = 2.0\n"},
    "PreviewBody": {"values": {"exclude": ["/basket*"]}, "addresses": ["/basket?item=1", "/shop/"]},
    "PreferencesChange": {"date_order": "day-first"},
    "ProfileBody": {
        "name": "Shop",
        "note": "For online shops: short product pages are fine.",
        "checks_off": ["text-thin"],
        "thresholds": {"links_max": 300},
        "severities": {"media-alt-missing": {"severity": "high", "reason": "Shoppers choose products by image."}},
    },
    "ProfileChange": {"checks_off": ["text-thin", "text-reading-hard"]},
    "RemarkBody": {"day": "2026-11-10", "text": "New theme went live"},
    "ReportBody": {"site_id": 1, "from_day": "2026-11-01", "to_day": "2026-11-30", "title": "November"},
    "ScheduleBody": {"rule": "weekly:TU", "at": "02:00", "zone": "Europe/London", "mail_to": ["imke@cobble-lantern.example"]},
    "SignInBody": {"email": "imke@cobble-lantern.example", "password": "a long password"},
    "SiteBody": {"client_id": 1, "address": "https://tidewrack.example/", "plan": {"pages_max": 2000}},
    "TodoBody": {"site_id": 1, "check": "link-broken", "assignee": 2, "due": "2026-12-04"},
    "TodoChange": {"state": "done", "comment": "The links lead to the new guide now."},
    "RetentionBody": {"weeks": 26},
    "TokenBody": {"name": "build server"},
    "FeedBody": {"client_id": 1},
    "TodosBody": {
        "site_id": 1,
        "check": "link-broken",
        "per": "cause",
        "assignees": [3, 4],
        "priority": "high",
        "labels": ["links"],
    },
    "TodoLinkBody": {"name": "Rosa at Tidewrack", "asks_approval": True},
    "TodosChange": {"changes": [{"id": 12, "assignee": 3}, {"id": 13, "due": "2099-01-05"}]},
    "WebhookBody": {"name": "Agency chat", "url": "https://hooks.cobble-lantern.example/audits", "topics": ["alert.raised"]},
    "WebhookChange": {"topics": ["run.done", "run.failed"]},
    "WaiverPreviewBody": {"waivers": [{"check": "text-thin", "pattern": "/care/*"}]},
    "WaiverChange": {"end": "2027-06-30"},
    "WaiverIds": {"ids": [3, 4]},
    "WaiversBody": {"waivers": [{"check": "text-thin", "pattern": "/care/*", "reason": "Kept short on purpose"}]},
    "WaiverBody": {"check": "text-thin", "pattern": "/care/*", "reason": "Kept short on purpose", "end": "2027-03-31"},
}

# By the name of a parameter, in a path or in a query.
PARAMETERS: dict[str, Any] = {
    "run_id": "latest-1",
    "check_id": "link-broken",
    "base": "latest-1",
    "head": "latest-1",
    "figure": "health",
    "from": "2026-11-01",
    "to": "2026-11-30",
    "url": "https://tidewrack.example/contact",
    "sort": "-words",
    "text": "dead link",
    "form": "csv",
    "check": "link-broken",
}
