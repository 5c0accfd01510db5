-- Which process does what only one may do at a time: it is taken over where its holder is gone.
CREATE TABLE leases (
  name   TEXT    NOT NULL PRIMARY KEY,
  holder TEXT    NOT NULL,
  until  INTEGER NOT NULL  -- seconds since 1970
) STRICT, WITHOUT ROWID;
