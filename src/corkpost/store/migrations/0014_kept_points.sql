-- What the checks found in a client, as of a revision and a day, by one state of the program. Made anew
-- when it is gone.
CREATE TABLE kept_points (
  client_id INTEGER PRIMARY KEY REFERENCES clients (id),
  revision  INTEGER NOT NULL,
  today     TEXT    NOT NULL,
  program   TEXT    NOT NULL,  -- SHA-256 of what finds them
  content   BLOB    NOT NULL   -- JSON, compressed
) STRICT;
