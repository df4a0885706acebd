-- pages of units' owners behind secret addresses: only their hashes are kept
CREATE TABLE IF NOT EXISTS owner_links (
  id CHAR(36) NOT NULL PRIMARY KEY,
  secret_hash CHAR(64) NOT NULL,
  order_id CHAR(36) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  withdrawn_at DATETIME(3) NULL,
  seen_at DATETIME(3) NULL,
  UNIQUE KEY secret (secret_hash),
  KEY of_order (order_id, at)
);
