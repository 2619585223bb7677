"""Groups, saved ramps, how a fixture makes colour, pictures as clips."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
ALTER TABLE fixture
    ADD COLUMN extra text NOT NULL DEFAULT 'replace' CHECK (extra IN ('replace', 'add', 'match', 'leave')),
    ADD COLUMN response text NOT NULL DEFAULT 'as is'
        CHECK (response IN ('as is', 'gamma 2.2', 'CIE lightness'));

CREATE TABLE fixture_group (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    fixtures jsonb NOT NULL
);
CREATE INDEX fixture_group_show ON fixture_group (show_id);

CREATE TABLE ramp (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    stops jsonb NOT NULL
);
CREATE INDEX ramp_show ON ramp (show_id);

ALTER TABLE clip ADD COLUMN kind text NOT NULL DEFAULT 'video';

UPDATE look SET layers = (
    SELECT coalesce(jsonb_agg(
        CASE WHEN layer ->> 'paints' = 'clip'
            THEN jsonb_set(layer, '{speed}', '{"value": 1, "unit": "times"}') ELSE layer END
        ORDER BY at), '[]')
    FROM jsonb_array_elements(layers) WITH ORDINALITY AS item (layer, at)
);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
