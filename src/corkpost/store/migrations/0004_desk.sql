-- What the desk says of a client, worked out once per revision and day. Made anew when it is gone.
CREATE TABLE summaries (
  client_id INTEGER PRIMARY KEY REFERENCES clients (id),
  revision  INTEGER NOT NULL,
  today     TEXT    NOT NULL,
  content   TEXT    NOT NULL  -- JSON
) STRICT;
