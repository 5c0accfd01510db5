-- Up to which change somebody has read what was done in a client's books. The latest row counts.
CREATE TABLE readings (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  staff_code    TEXT    NOT NULL REFERENCES staff (code),
  number        INTEGER NOT NULL,
  change_number INTEGER NOT NULL,  -- 0 where there was none
  read_at       TEXT    NOT NULL,
  PRIMARY KEY (client_id, staff_code, number)
) STRICT, WITHOUT ROWID;
