-- What a client's layouts are called by whom takes them in.
CREATE TABLE listing_layouts (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  layout    TEXT    NOT NULL,  -- the names of the columns
  name      TEXT    NOT NULL,
  PRIMARY KEY (client_id, layout)
) STRICT, WITHOUT ROWID;
