-- Drain families of one's own, each as the TOML file that says it.
CREATE TABLE drain_family (
  id TEXT PRIMARY KEY,
  toml TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;
