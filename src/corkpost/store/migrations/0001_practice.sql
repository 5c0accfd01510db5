-- The practice: who works in it, and whose books it looks after.

CREATE TABLE practice (
  id            INTEGER PRIMARY KEY CHECK (id = 1),
  name          TEXT    NOT NULL,
  is_demo       INTEGER NOT NULL CHECK (is_demo IN (0, 1)),
  second_person INTEGER NOT NULL CHECK (second_person IN (0, 1))  -- who posted may not sign
) STRICT;

CREATE TABLE staff (
  code          TEXT    NOT NULL PRIMARY KEY,
  name          TEXT    NOT NULL,
  role          TEXT    NOT NULL CHECK (role IN ('preparer', 'reviewer', 'partner')),
  password_hash TEXT,                       -- argon2; none until one is set: no sign-in
  epoch         INTEGER NOT NULL DEFAULT 1  -- raised to end this person's sessions
) STRICT, WITHOUT ROWID;

CREATE TABLE clients (
  id       INTEGER PRIMARY KEY,
  code     TEXT    NOT NULL UNIQUE,
  revision INTEGER NOT NULL DEFAULT 0       -- raised by whatever changes what is shown of it
) STRICT;

CREATE TABLE staff_clients (
  staff_code TEXT    NOT NULL REFERENCES staff (code),
  client_id  INTEGER NOT NULL REFERENCES clients (id),
  PRIMARY KEY (staff_code, client_id)
) STRICT, WITHOUT ROWID;

-- Which page of a client somebody looked at last, so that they carry on there.
CREATE TABLE places (
  staff_code TEXT    NOT NULL REFERENCES staff (code),
  client_id  INTEGER NOT NULL REFERENCES clients (id),
  path       TEXT    NOT NULL,
  at         TEXT    NOT NULL,
  PRIMARY KEY (staff_code, client_id)
) STRICT, WITHOUT ROWID;
