-- Routines that users saved, with every version, and batches of assets that go through one.
CREATE TABLE routine (
  id TEXT NOT NULL,
  version INTEGER NOT NULL,
  name TEXT NOT NULL,
  body TEXT NOT NULL,
  created_at TEXT NOT NULL,
  PRIMARY KEY (id, version)
);

CREATE TABLE batch (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  routine TEXT NOT NULL,
  created_at TEXT NOT NULL
);

CREATE TABLE batch_asset (
  batch_id TEXT NOT NULL REFERENCES batch (id) ON DELETE CASCADE,
  place INTEGER NOT NULL,
  crossing_id TEXT NOT NULL REFERENCES crossing (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  state TEXT NOT NULL,
  opened INTEGER NOT NULL DEFAULT 0,
  record TEXT,
  landings TEXT,
  PRIMARY KEY (batch_id, place)
);

CREATE INDEX batch_asset_crossing ON batch_asset (crossing_id);
