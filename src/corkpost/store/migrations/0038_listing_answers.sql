-- What was answered about a client's listings, by layout, so that the next file of the kind asks nothing.
-- The latest answer counts.
CREATE TABLE listing_answers (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  layout    TEXT    NOT NULL,  -- what is asked, and the names of the columns
  answer    TEXT    NOT NULL,
  made_by   TEXT    NOT NULL,
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, layout)
) STRICT, WITHOUT ROWID;
