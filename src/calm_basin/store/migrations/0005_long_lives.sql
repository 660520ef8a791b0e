-- Revisions go with their job at once: a chain of parents that cascades is walked row by row, and no
-- deeper than SQLite's triggers go. A job tells apart presses and windows: what made it, and which
-- window wrote last and how many writes of its own that was.
CREATE TABLE revision_anew (
  id INTEGER PRIMARY KEY,
  job_id TEXT NOT NULL REFERENCES job (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  parent INTEGER REFERENCES revision_anew (id) DEFERRABLE INITIALLY DEFERRED,
  made_at TEXT NOT NULL,
  plan TEXT NOT NULL
) STRICT;
INSERT INTO revision_anew (id, job_id, parent, made_at, plan)
  SELECT id, job_id, parent, made_at, plan FROM revision;
DROP TABLE revision;
ALTER TABLE revision_anew RENAME TO revision;
CREATE INDEX revision_by_job ON revision (job_id, made_at);
CREATE INDEX revision_by_parent ON revision (parent);

ALTER TABLE job ADD COLUMN made_with TEXT;
ALTER TABLE job ADD COLUMN writer TEXT;
ALTER TABLE job ADD COLUMN writes INTEGER NOT NULL DEFAULT 0;
CREATE UNIQUE INDEX job_by_press ON job (made_with);
CREATE INDEX job_by_change ON job (deleted_at, changed_at);
CREATE INDEX job_by_head ON job (head);
