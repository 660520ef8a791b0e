-- Rule sets of one's own, as the TOML that they are exported and imported as.
CREATE TABLE rule_set (
  id TEXT PRIMARY KEY,
  toml TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;
