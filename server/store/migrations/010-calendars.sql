-- secret addresses of calendars: only their hashes are kept
CREATE TABLE IF NOT EXISTS calendars (
  id CHAR(36) NOT NULL PRIMARY KEY,
  secret_hash CHAR(64) NOT NULL,
  whose VARCHAR(80) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  withdrawn_at DATETIME(3) NULL,
  UNIQUE KEY secret (secret_hash)
);
