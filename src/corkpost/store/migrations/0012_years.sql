-- Financial years that people of the practice opened beyond those that the client's books reach.
CREATE TABLE opened_years (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  last_day  TEXT    NOT NULL,
  made_by   TEXT    NOT NULL,
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, last_day)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER opened_years_are_never_updated BEFORE UPDATE ON opened_years
BEGIN SELECT RAISE(ABORT, 'A year that was opened stays as it is: open the next one.'); END;
CREATE TRIGGER opened_years_are_never_deleted BEFORE DELETE ON opened_years
BEGIN SELECT RAISE(ABORT, 'A year that was opened stays.'); END;
