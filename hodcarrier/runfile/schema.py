"""The schema of a run file, version 8. ``docs/run-file.md`` describes it for other readers."""

from __future__ import annotations

from typing import get_args

from hodcarrier.core.facts.values import Landmark, LinkKind
from hodcarrier.core.states import AddressRole, Severity

APPLICATION_ID = 0x486F6463
VERSION = 8
# From this version on a file has all the facts that checks need.
FACTS_VERSION = 7
# From this one on it keeps the columns of its inventory.
COLUMNS_VERSION = 8

ROLES = tuple(role.value for role in AddressRole)
STATES = ("queued", "done", "disallowed", "skipped")
PAGE, FILE, EXTERNAL = range(3)
QUEUED, DONE, DISALLOWED, SKIPPED = range(4)
FOUND_START, FOUND_LINK, FOUND_SITEMAP, FOUND_LIST, FOUND_REDIRECT, FOUND_EARLIER = 1, 2, 4, 8, 16, 32

KINDS: tuple[str, ...] = get_args(LinkKind)
LANDMARKS: tuple[str, ...] = get_args(Landmark)

FACTS = """
CREATE TABLE meta (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE address (
  id INTEGER PRIMARY KEY,
  url TEXT NOT NULL,
  role INTEGER NOT NULL,            -- index into page, file, external
  state INTEGER NOT NULL,           -- index into queued, done, disallowed, skipped
  depth INTEGER,                    -- clicks from the start; NULL when no link leads here
  found_by INTEGER NOT NULL,        -- 1 start, 2 link, 4 sitemap, 8 list, 16 redirect, 32 earlier run
  rule TEXT NOT NULL DEFAULT ''     -- why it was not fetched: the robots.txt rule, or the plan's limit
);
CREATE TABLE answer (
  address_id INTEGER PRIMARY KEY REFERENCES address(id),
  status INTEGER, failure TEXT NOT NULL, detail TEXT NOT NULL, content_type TEXT NOT NULL, http_version TEXT NOT NULL,
  wire_bytes INTEGER NOT NULL, decoded_bytes INTEGER NOT NULL, first_byte_ms REAL, total_ms REAL NOT NULL,
  redirect_id INTEGER, fetched_at TEXT NOT NULL, headers BLOB NOT NULL, remote TEXT NOT NULL
);
CREATE TABLE page (
  address_id INTEGER PRIMARY KEY REFERENCES address(id),
  title TEXT NOT NULL, description TEXT NOT NULL, h1 TEXT NOT NULL, canonical TEXT NOT NULL, robots TEXT NOT NULL,
  lang TEXT NOT NULL, words INTEGER NOT NULL, text_hash TEXT NOT NULL, template TEXT NOT NULL,
  facts BLOB NOT NULL,              -- zlib of MessagePack: facts by area, links apart; see docs/run-file.md
  links BLOB NOT NULL               -- ids and kinds, then zlib of MessagePack: [raw, text, landmark, rel]; see docs/run-file.md
);
CREATE TABLE mark (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
CREATE TABLE page_mark (address_id INTEGER PRIMARY KEY REFERENCES address(id), marks BLOB NOT NULL);
CREATE TABLE page_fragment (address_id INTEGER PRIMARY KEY REFERENCES address(id), prints BLOB NOT NULL);
CREATE TABLE page_source (address_id INTEGER PRIMARY KEY REFERENCES address(id), body BLOB NOT NULL);
CREATE TABLE file_fact (address_id INTEGER PRIMARY KEY REFERENCES address(id), facts BLOB NOT NULL);
CREATE TABLE site_file (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL, url TEXT NOT NULL, found TEXT NOT NULL, status INTEGER, failure TEXT NOT NULL,
  content_type TEXT NOT NULL, hops INTEGER NOT NULL, body BLOB NOT NULL
);
CREATE TABLE probe (name TEXT PRIMARY KEY, facts TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE listed (address_id INTEGER NOT NULL, sitemap_id INTEGER NOT NULL, lastmod TEXT NOT NULL);
"""

RESULTS = """
CREATE TABLE inventory (
  id INTEGER PRIMARY KEY, role INTEGER NOT NULL, state INTEGER NOT NULL, depth INTEGER, status INTEGER, redirect_id INTEGER,
  words INTEGER, inlinks INTEGER, first_byte_ms REAL, decoded_bytes INTEGER,
  scored INTEGER, health REAL, critical INTEGER, high INTEGER, medium INTEGER, low INTEGER,
  url TEXT NOT NULL, failure TEXT, content_type TEXT, why_not TEXT, title TEXT, description TEXT, h1 TEXT, canonical TEXT, robots TEXT,
  template TEXT
);
CREATE TABLE column_values (role INTEGER NOT NULL, name TEXT NOT NULL, data BLOB NOT NULL, UNIQUE (role, name));
CREATE TABLE link_values (
  name TEXT NOT NULL, part INTEGER NOT NULL, rows INTEGER NOT NULL, data BLOB NOT NULL, UNIQUE (name, part)
);
CREATE TABLE inlink (target_id INTEGER PRIMARY KEY, sources BLOB NOT NULL);
CREATE TABLE check_state (
  id TEXT PRIMARY KEY, identity TEXT NOT NULL, area TEXT NOT NULL, area_name TEXT NOT NULL, severity TEXT NOT NULL,
  subject TEXT NOT NULL, needs TEXT NOT NULL, effort TEXT NOT NULL, summary TEXT NOT NULL, why TEXT NOT NULL, fix TEXT NOT NULL,
  standard TEXT NOT NULL, messages TEXT NOT NULL, limits TEXT NOT NULL, revision INTEGER NOT NULL, state TEXT NOT NULL,
  findings INTEGER NOT NULL, waived INTEGER NOT NULL, pages INTEGER NOT NULL, fixes INTEGER NOT NULL, gain REAL NOT NULL,
  unverified INTEGER NOT NULL, crashed INTEGER NOT NULL, first_seen TEXT, times_returned INTEGER NOT NULL,
  examined INTEGER, failing INTEGER, passed INTEGER, not_applicable INTEGER     -- pages, files or groups, NULL in files of earlier releases
) WITHOUT ROWID;
CREATE TABLE cause (
  id INTEGER PRIMARY KEY, check_id TEXT NOT NULL, key TEXT NOT NULL, line TEXT NOT NULL, findings INTEGER NOT NULL,
  waived INTEGER NOT NULL, pages INTEGER NOT NULL, gain REAL NOT NULL, first_seen TEXT NOT NULL, times_returned INTEGER NOT NULL
);
CREATE TABLE finding (
  id INTEGER PRIMARY KEY, fingerprint BLOB NOT NULL, check_id TEXT NOT NULL, severity INTEGER NOT NULL, subject_id INTEGER,
  subject TEXT NOT NULL, place TEXT NOT NULL, message TEXT NOT NULL, evidence TEXT NOT NULL, cause_id INTEGER NOT NULL,
  waived INTEGER NOT NULL, first_seen TEXT NOT NULL, times_returned INTEGER NOT NULL
);
CREATE TABLE unverified (fingerprint BLOB PRIMARY KEY, check_id TEXT NOT NULL, subject TEXT NOT NULL, place TEXT NOT NULL,
  reason TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE earlier (
  fingerprint BLOB PRIMARY KEY, check_id TEXT NOT NULL, subject TEXT NOT NULL, place TEXT NOT NULL, state TEXT NOT NULL,
  first_seen TEXT NOT NULL, last_seen TEXT NOT NULL, times_returned INTEGER NOT NULL
) WITHOUT ROWID;
CREATE TABLE once_indexable (url TEXT PRIMARY KEY) WITHOUT ROWID;
CREATE VIEW verdict AS
  SELECT id AS address_id, scored, why_not, inlinks, health, critical, high, medium, low FROM inventory WHERE role = 0;
CREATE VIEW history AS
  SELECT fingerprint, check_id, subject, place, 'open' AS state, first_seen,
    (SELECT json_extract(value, '$') FROM meta WHERE key = 'examined_at') AS last_seen, times_returned FROM finding
  UNION ALL SELECT fingerprint, check_id, subject, place, state, first_seen, last_seen, times_returned FROM earlier;
"""

# The rows of ``inventory``: everything about an address that is no blob. A file whose size nobody told has none; an empty page has 0 bytes.
INVENTORY = """
SELECT address.id, address.role, address.state, address.depth, answer.status, answer.redirect_id, page.words, v.inlinks,
  answer.first_byte_ms, CASE WHEN address.role = 0 THEN answer.decoded_bytes ELSE nullif(answer.decoded_bytes, 0) END AS decoded_bytes,
  v.scored, v.health, v.critical, v.high, v.medium, v.low, address.url, answer.failure, answer.content_type, v.why_not,
  page.title, page.description, page.h1, page.canonical, page.robots, page.template
FROM address LEFT JOIN answer ON answer.address_id = address.id LEFT JOIN page ON page.address_id = address.id
  LEFT JOIN {judged} v ON v.address_id = address.id
"""

RESULT_TABLES = (
    "inventory",
    "column_values",
    "link_values",
    "inlink",
    "check_state",
    "cause",
    "finding",
    "unverified",
    "earlier",
    "once_indexable",
)
RESULT_VIEWS = ("verdict", "history")

# What is shown of one address.
SHOWN = (
    "url",
    "status",
    "title",
    "description",
    "h1",
    "words",
    "depth",
    "inlinks",
    "health",
    "first_byte_ms",
    "decoded_bytes",
    "content_type",
    "why_not",
    "state",
    *(severity.value for severity in Severity),
)

INDEXES = """
CREATE UNIQUE INDEX IF NOT EXISTS address_url ON address(url);
CREATE INDEX IF NOT EXISTS listed_address ON listed(address_id);
CREATE INDEX IF NOT EXISTS finding_print ON finding(fingerprint, waived);
CREATE INDEX IF NOT EXISTS finding_waived ON finding(waived);
CREATE INDEX IF NOT EXISTS finding_check ON finding(check_id, waived);
CREATE INDEX IF NOT EXISTS finding_cause ON finding(cause_id, waived);
CREATE INDEX IF NOT EXISTS finding_severity ON finding(severity, waived);
CREATE INDEX IF NOT EXISTS finding_subject ON finding(subject_id);
CREATE INDEX IF NOT EXISTS cause_order ON cause(gain DESC, findings DESC) WHERE findings > 0;
CREATE INDEX IF NOT EXISTS cause_check ON cause(check_id, gain DESC, findings DESC) WHERE findings > 0;
CREATE INDEX IF NOT EXISTS inventory_url ON inventory(role, url);
CREATE INDEX IF NOT EXISTS inventory_state ON inventory(role, state);
"""
