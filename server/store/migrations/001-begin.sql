CREATE TABLE IF NOT EXISTS people (
  id VARCHAR(31) NOT NULL PRIMARY KEY,
  name VARCHAR(40) NOT NULL,
  role VARCHAR(12) NOT NULL,
  password_hash VARCHAR(200) NOT NULL,
  created_at DATETIME(3) NOT NULL
);

CREATE TABLE IF NOT EXISTS sessions (
  token_hash CHAR(64) NOT NULL PRIMARY KEY,
  person VARCHAR(31) NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  KEY by_end (expires_at)
);

-- counts for rate limits, so that any number of servers share them
CREATE TABLE IF NOT EXISTS hits (
  who VARCHAR(120) NOT NULL PRIMARY KEY,
  hits INT NOT NULL,
  reset_at DATETIME(3) NOT NULL
);

CREATE TABLE IF NOT EXISTS settings (
  id TINYINT NOT NULL PRIMARY KEY,
  json LONGTEXT NOT NULL
);

-- a sheet is never changed: a changed one is the next revision
CREATE TABLE IF NOT EXISTS sheets (
  kind VARCHAR(8) NOT NULL,
  id VARCHAR(60) NOT NULL,
  revision INT NOT NULL,
  name VARCHAR(200) NOT NULL,
  json LONGTEXT NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (kind, id, revision)
);

CREATE TABLE IF NOT EXISTS counters (
  name VARCHAR(20) NOT NULL PRIMARY KEY,
  value BIGINT NOT NULL
);

CREATE TABLE IF NOT EXISTS orders (
  id CHAR(36) NOT NULL PRIMARY KEY,
  number INT NOT NULL UNIQUE,
  version INT NOT NULL,
  status VARCHAR(8) NOT NULL,
  model VARCHAR(60) NOT NULL,
  promised_at DATETIME(3) NOT NULL,
  updated_at DATETIME(3) NOT NULL,
  -- state is the events applied in turn; summary and words are worked out from it at each write
  state LONGTEXT NOT NULL,
  summary LONGTEXT NOT NULL,
  words TEXT NOT NULL,
  KEY by_status (status, promised_at),
  KEY by_model (model),
  KEY by_time (updated_at),
  FULLTEXT KEY ft_words (words)
);

CREATE TABLE IF NOT EXISTS order_events (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  order_id CHAR(36) NOT NULL,
  seq INT NOT NULL,
  at DATETIME(3) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  type VARCHAR(30) NOT NULL,
  body LONGTEXT NOT NULL,
  says TEXT NOT NULL,
  prev_hash CHAR(64) NOT NULL,
  hash CHAR(64) NOT NULL,
  UNIQUE KEY one (order_id, seq),
  KEY by_type (type, order_id),
  FULLTEXT KEY ft_says (says),
  CONSTRAINT event_of FOREIGN KEY (order_id) REFERENCES orders (id)
);

-- the hand-over sheet as it was sealed; its hash stands in the sealing event
CREATE TABLE IF NOT EXISTS sealed_sheets (
  order_id CHAR(36) NOT NULL PRIMARY KEY,
  json LONGTEXT NOT NULL,
  hash CHAR(64) NOT NULL
);

-- what was answered to a POST, kept with the write itself so that a repeated one is the same one
CREATE TABLE IF NOT EXISTS answers (
  idempotency_key VARCHAR(80) NOT NULL,
  person VARCHAR(31) NOT NULL,
  fingerprint CHAR(64) NOT NULL,
  status SMALLINT NOT NULL,
  body LONGTEXT NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (idempotency_key, person),
  KEY by_time (at)
);
