-- Sessions of the practice's people, tries to come in, second factors, invitations; and the record of what
-- the practice's people did besides posting, each row chained to the one before.

CREATE TABLE sessions (
  id         TEXT    NOT NULL PRIMARY KEY,  -- SHA-256 of what the browser holds
  staff_code TEXT    NOT NULL REFERENCES staff (code),
  made_at    TEXT    NOT NULL,
  began      INTEGER NOT NULL,              -- seconds since 1970, as the next two
  seen       INTEGER NOT NULL,
  confirmed  INTEGER NOT NULL,              -- when the person said their password last
  address    TEXT    NOT NULL,
  agent      TEXT    NOT NULL,
  ended_at   TEXT,
  ended_by   TEXT,
  ended_why  TEXT
) STRICT, WITHOUT ROWID;

CREATE TABLE tries (
  of     TEXT    NOT NULL PRIMARY KEY,      -- an account or an address
  failed INTEGER NOT NULL,
  last   INTEGER NOT NULL                   -- seconds since 1970
) STRICT, WITHOUT ROWID;

CREATE TABLE second_factors (
  staff_code TEXT NOT NULL PRIMARY KEY REFERENCES staff (code),
  secret     TEXT NOT NULL,
  recovery   TEXT NOT NULL,                 -- SHA-256 of each code that is left, as JSON
  used       INTEGER NOT NULL,              -- the last half minute whose code was taken
  since      TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE invitations (
  id         TEXT    NOT NULL PRIMARY KEY,  -- SHA-256 of what the link holds
  staff_code TEXT    NOT NULL REFERENCES staff (code),
  made_by    TEXT    NOT NULL,
  until      INTEGER NOT NULL               -- seconds since 1970
) STRICT, WITHOUT ROWID;

ALTER TABLE staff ADD COLUMN left_on TEXT;  -- the day on which they left; the name stays
ALTER TABLE practice ADD COLUMN second_factor INTEGER NOT NULL DEFAULT 0;  -- everybody needs one

CREATE TABLE record (
  number   INTEGER PRIMARY KEY,
  at       TEXT NOT NULL,
  kind     TEXT NOT NULL,
  who      TEXT NOT NULL,                   -- a person's code, or machine
  client   TEXT NOT NULL,                   -- a client's code; empty where it is about none
  detail   TEXT NOT NULL,
  address  TEXT NOT NULL,
  previous TEXT NOT NULL,
  digest   TEXT NOT NULL
) STRICT;

CREATE INDEX record_by_client ON record (client, number);

CREATE TRIGGER record_is_never_updated BEFORE UPDATE ON record
BEGIN SELECT RAISE(ABORT, 'What is on record stays as it is.'); END;
CREATE TRIGGER record_is_never_deleted BEFORE DELETE ON record
BEGIN SELECT RAISE(ABORT, 'What is on record stays.'); END;
