-- who there is and where: one directory for all shops, each of which has a database of its own
CREATE TABLE IF NOT EXISTS shop_groups (
  id VARCHAR(20) NOT NULL PRIMARY KEY,
  name VARCHAR(80) NOT NULL,
  at DATETIME(3) NOT NULL
);

CREATE TABLE IF NOT EXISTS shops (
  id VARCHAR(20) NOT NULL PRIMARY KEY,
  -- as the shop calls itself
  name VARCHAR(80) NOT NULL,
  schema_name VARCHAR(64) NOT NULL,
  group_id VARCHAR(20) NULL,
  at DATETIME(3) NOT NULL,
  UNIQUE KEY by_schema (schema_name),
  KEY by_group (group_id)
);

CREATE TABLE IF NOT EXISTS accounts (
  id VARCHAR(31) NOT NULL PRIMARY KEY,
  password_hash VARCHAR(200) NOT NULL,
  -- given once by an owner to who forgot their password
  code_hash VARCHAR(200) NULL,
  code_until DATETIME(3) NULL,
  at DATETIME(3) NOT NULL
);

-- who works where as what; people leave, and stay in the record
CREATE TABLE IF NOT EXISTS members (
  shop VARCHAR(20) NOT NULL,
  account VARCHAR(31) NOT NULL,
  name VARCHAR(40) NOT NULL,
  role VARCHAR(12) NOT NULL,
  version INT NOT NULL DEFAULT 1,
  ended_at DATETIME(3) NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (shop, account),
  KEY by_account (account)
);

CREATE TABLE IF NOT EXISTS group_owners (
  group_id VARCHAR(20) NOT NULL,
  account VARCHAR(31) NOT NULL,
  PRIMARY KEY (group_id, account),
  KEY by_account (account)
);

CREATE TABLE IF NOT EXISTS sessions (
  token_hash CHAR(64) NOT NULL PRIMARY KEY,
  account VARCHAR(31) NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  begun_at DATETIME(3) NULL,
  seen_at DATETIME(3) NULL,
  device VARCHAR(20) NULL,
  address VARCHAR(45) NULL,
  KEY by_end (expires_at),
  KEY by_account (account)
);

-- counts for rate limits, so that any number of servers share them
CREATE TABLE IF NOT EXISTS hits (
  who VARCHAR(120) NOT NULL PRIMARY KEY,
  hits INT NOT NULL,
  reset_at DATETIME(3) NOT NULL,
  KEY by_end (reset_at)
);

CREATE TABLE IF NOT EXISTS rights_log (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  shop VARCHAR(20) NOT NULL,
  at DATETIME(3) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  person VARCHAR(31) NOT NULL,
  says VARCHAR(200) NOT NULL,
  KEY of_shop (shop, at)
);

-- servers that answer, each saying that it lives
CREATE TABLE IF NOT EXISTS servers (
  id CHAR(36) NOT NULL PRIMARY KEY,
  version VARCHAR(20) NOT NULL,
  since DATETIME(3) NOT NULL,
  seen_at DATETIME(3) NOT NULL
);
