-- Who names a stored file is asked for each file when unused ones are deleted.
CREATE INDEX cargo_file_by_blob ON cargo_file(blob);
CREATE INDEX landing_file_by_blob ON landing_file(blob);
CREATE INDEX crossing_by_thumbnail ON crossing(thumbnail);

-- How often reading a crossing's cargo was begun and not ended: a cargo that stops the program is
-- not read again at every start.
ALTER TABLE crossing ADD COLUMN reading_tries INTEGER NOT NULL DEFAULT 0;
