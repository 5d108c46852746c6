-- What was chosen about the reading of a cargo. Which scene of a file is read stood among the chosen files, counted
-- from 0.
CREATE TABLE read_option (
  crossing_id TEXT NOT NULL REFERENCES crossing (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  value TEXT NOT NULL,
  PRIMARY KEY (crossing_id, name)
);

INSERT INTO read_option (crossing_id, name, value)
SELECT crossing_id, 'scene', CAST(CAST(file AS INTEGER) + 1 AS TEXT) FROM binding WHERE reference = 'gltf:scene';

DELETE FROM binding WHERE reference = 'gltf:scene';
