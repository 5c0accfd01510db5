-- Long work. A job is claimed with a lease; one whose lease ran out is claimed again, so that it
-- survives a restart.
CREATE TABLE jobs (
  id       TEXT    PRIMARY KEY,
  kind     TEXT    NOT NULL,
  made_by  TEXT    NOT NULL REFERENCES staff (code),
  made_at  TEXT    NOT NULL,
  state    TEXT    NOT NULL CHECK (state IN ('queued', 'running', 'done', 'refused', 'failed')),
  request  TEXT    NOT NULL,  -- JSON
  progress TEXT    NOT NULL,
  result   TEXT    NOT NULL,  -- JSON; of a refused job the problem
  lease    INTEGER NOT NULL   -- seconds since 1970, by the machine's clock
) STRICT;
CREATE INDEX jobs_by_state ON jobs (state, lease);
