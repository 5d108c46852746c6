CREATE TABLE crossing (
  id            TEXT PRIMARY KEY,
  name          TEXT NOT NULL,
  state         TEXT NOT NULL,             -- empty, reading, ready, failed
  problem       TEXT,                      -- why reading failed, for the user
  summary       TEXT,                      -- JSON: formats, height, findings; for the list
  history       INTEGER NOT NULL DEFAULT 0, -- place in the handling's history
  thumbnail     TEXT,                      -- blob
  created_at    TEXT NOT NULL,
  updated_at    TEXT NOT NULL
);

CREATE TABLE cargo_file (
  crossing_id   TEXT NOT NULL REFERENCES crossing(id) ON DELETE CASCADE,
  path          TEXT NOT NULL,
  blob          TEXT NOT NULL,
  size          INTEGER NOT NULL,
  unpacked_from TEXT,                      -- path of the zip it came from
  PRIMARY KEY (crossing_id, path)
);

CREATE TABLE binding (
  crossing_id   TEXT NOT NULL REFERENCES crossing(id) ON DELETE CASCADE,
  reference     TEXT NOT NULL,
  file          TEXT NOT NULL,
  PRIMARY KEY (crossing_id, reference)
);

CREATE TABLE handling (
  crossing_id   TEXT NOT NULL REFERENCES crossing(id) ON DELETE CASCADE,
  place         INTEGER NOT NULL,
  steps         TEXT NOT NULL,             -- JSON
  PRIMARY KEY (crossing_id, place)
);

CREATE TABLE landing (
  id            TEXT PRIMARY KEY,
  crossing_id   TEXT NOT NULL REFERENCES crossing(id) ON DELETE CASCADE,
  job_id        TEXT NOT NULL,
  state         TEXT NOT NULL,             -- running, done, failed, cancelled
  options       TEXT NOT NULL,             -- JSON
  steps         TEXT NOT NULL,             -- JSON, the handling that was landed
  main_file     TEXT,
  proof         TEXT,                      -- JSON
  problem       TEXT,
  created_at    TEXT NOT NULL
);

CREATE TABLE landing_file (
  landing_id    TEXT NOT NULL REFERENCES landing(id) ON DELETE CASCADE,
  path          TEXT NOT NULL,
  blob          TEXT NOT NULL,
  size          INTEGER NOT NULL,
  PRIMARY KEY (landing_id, path)
);

CREATE TABLE job (
  id            TEXT PRIMARY KEY,
  kind          TEXT NOT NULL,             -- read, land
  crossing_id   TEXT NOT NULL REFERENCES crossing(id) ON DELETE CASCADE,
  title         TEXT NOT NULL,
  state         TEXT NOT NULL,             -- waiting, running, done, failed, cancelled
  what          TEXT NOT NULL,
  fraction      REAL NOT NULL,
  problem       TEXT,
  created_at    TEXT NOT NULL,
  ended_at      TEXT
);

CREATE INDEX landing_by_crossing ON landing(crossing_id, created_at);
CREATE INDEX job_by_state ON job(state, created_at);
