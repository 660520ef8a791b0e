-- Build systems and kinds of layer of one's own, as the TOML that they are read from.
CREATE TABLE build_system (
  id TEXT PRIMARY KEY,
  toml TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;
CREATE TABLE layer_kind (
  id TEXT PRIMARY KEY,
  toml TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;
