-- Shores that users made; the built-in ones come with the program.
CREATE TABLE shore (
  id            TEXT PRIMARY KEY,
  name          TEXT NOT NULL,
  body          TEXT NOT NULL,             -- JSON as docs/shore.schema.json says
  updated_at    TEXT NOT NULL
);

-- Where a crossing goes; NULL for the one that was chosen last.
ALTER TABLE crossing ADD COLUMN far_shore TEXT;

-- Small things to remember, such as the far shore that was chosen last.
CREATE TABLE remembered (
  key           TEXT PRIMARY KEY,
  value         TEXT NOT NULL
);

-- States of a handling under a name, to compare with and to return to.
CREATE TABLE handling_state (
  id            TEXT PRIMARY KEY,
  crossing_id   TEXT NOT NULL REFERENCES crossing(id) ON DELETE CASCADE,
  name          TEXT NOT NULL,
  steps         TEXT NOT NULL,             -- JSON
  created_at    TEXT NOT NULL
);

CREATE INDEX handling_state_by_crossing ON handling_state(crossing_id, created_at);
