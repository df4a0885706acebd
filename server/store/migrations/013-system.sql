-- servers that answer for this shop, each saying that it lives
CREATE TABLE IF NOT EXISTS servers (
  id CHAR(36) NOT NULL PRIMARY KEY,
  version VARCHAR(20) NOT NULL,
  since DATETIME(3) NOT NULL,
  seen_at DATETIME(3) NOT NULL
);

-- archives that were written
CREATE TABLE IF NOT EXISTS backups (
  id CHAR(36) NOT NULL PRIMARY KEY,
  at DATETIME(3) NOT NULL,
  bytes BIGINT NOT NULL,
  file_name VARCHAR(200) NOT NULL
);

-- where somebody is signed in, for them to see and to end
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS begun_at DATETIME(3) NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS seen_at DATETIME(3) NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS device VARCHAR(20) NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS address VARCHAR(45) NULL;
