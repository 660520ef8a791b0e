-- Photos lie in a folder beside the database, named by what is in them; an entry of the log names its
-- own. Only a copy that is taken away holds them itself, in pieces.
CREATE TABLE photo_part (
  hash TEXT NOT NULL,
  part INTEGER NOT NULL CHECK (part >= 0),
  bytes BLOB NOT NULL,
  PRIMARY KEY (hash, part)
) STRICT;

CREATE INDEX log_entry_photo ON log_entry (json_extract(body, '$.photo.hash'))
WHERE json_valid(body) AND json_extract(body, '$.photo.hash') IS NOT NULL;
