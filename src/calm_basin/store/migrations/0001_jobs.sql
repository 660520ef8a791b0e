-- A job and every state its plan was ever in. Nothing is overwritten: undo moves the head to the
-- parent, redo to the child that was made last, a save adds a child.
CREATE TABLE job (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  made_at TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  head INTEGER NOT NULL REFERENCES revision (id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE revision (
  id INTEGER PRIMARY KEY,
  job_id TEXT NOT NULL REFERENCES job (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  parent INTEGER REFERENCES revision (id) ON DELETE CASCADE,
  made_at TEXT NOT NULL,
  plan TEXT NOT NULL
) STRICT;

CREATE INDEX revision_by_parent ON revision (job_id, parent);
