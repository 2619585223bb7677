"""Shows, what is in them, and the edit journal.

Numbers that must be unique within a show are checked at the end of a transaction, so that two
fixtures can exchange theirs in one edit.
"""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE show (
    id uuid PRIMARY KEY,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    revision bigint NOT NULL DEFAULT 0,
    is_open boolean NOT NULL DEFAULT false,
    created_at timestamptz NOT NULL DEFAULT now()
);
CREATE UNIQUE INDEX show_one_open ON show (is_open) WHERE is_open;

CREATE TABLE profile (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    maker text NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    kind text NOT NULL,
    guarded boolean NOT NULL DEFAULT false,
    modes jsonb NOT NULL
);
CREATE INDEX profile_show ON profile (show_id);

CREATE TABLE fixture (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    number integer NOT NULL CHECK (number BETWEEN 1 AND 999999),
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    profile_id uuid NOT NULL REFERENCES profile (id) DEFERRABLE INITIALLY DEFERRED,
    mode text NOT NULL,
    universe integer CHECK (universe BETWEEN 1 AND 63999),
    channel integer CHECK (channel BETWEEN 1 AND 512),
    CHECK ((universe IS NULL) = (channel IS NULL)),
    CONSTRAINT fixture_number UNIQUE (show_id, number) DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE matrix (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    width integer NOT NULL CHECK (width >= 1),
    height integer NOT NULL CHECK (height >= 1),
    placements jsonb NOT NULL,
    CHECK (width::bigint * height <= 250000)
);
CREATE INDEX matrix_show ON matrix (show_id);

CREATE TABLE clip (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
    content text NOT NULL,
    suffix text NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    frames integer NOT NULL,
    duration_ns bigint NOT NULL,
    bytes bigint NOT NULL
);
CREATE INDEX clip_show ON clip (show_id);

CREATE TABLE look (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    layers jsonb NOT NULL
);
CREATE INDEX look_show ON look (show_id);

CREATE TABLE output (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    protocol text NOT NULL CHECK (protocol IN ('artnet', 'sacn')),
    mode text NOT NULL CHECK (mode IN ('unicast', 'broadcast', 'multicast')),
    destination text NOT NULL,
    address text NOT NULL,
    card text NOT NULL,
    first_universe integer NOT NULL CHECK (first_universe BETWEEN 1 AND 63999),
    count integer NOT NULL CHECK (count BETWEEN 1 AND 32768),
    first_number integer NOT NULL CHECK (first_number >= 0),
    priority integer NOT NULL CHECK (priority BETWEEN 0 AND 200),
    "on" boolean NOT NULL
);
CREATE INDEX output_show ON output (show_id);

CREATE TABLE edit (
    id bigserial PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    revision bigint NOT NULL,
    author text NOT NULL,
    author_name text NOT NULL,
    label text NOT NULL,
    kind text NOT NULL CHECK (kind IN ('edit', 'undo', 'redo')),
    state text NOT NULL CHECK (state IN ('done', 'undone', 'dropped', 'trace')),
    changes jsonb NOT NULL,
    at timestamptz NOT NULL DEFAULT now()
);
CREATE UNIQUE INDEX edit_revision ON edit (show_id, revision);
CREATE INDEX edit_author ON edit (show_id, author, state, id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
