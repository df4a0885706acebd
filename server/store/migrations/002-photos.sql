-- a picture goes by the SHA-256 of its bytes: sent twice, it is there once
CREATE TABLE IF NOT EXISTS photos (
  id CHAR(64) NOT NULL PRIMARY KEY,
  type VARCHAR(20) NOT NULL,
  width INT NOT NULL,
  height INT NOT NULL,
  bytes LONGBLOB NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL
);

-- what is wrong with the stand-in for the unit on a bench
CREATE TABLE IF NOT EXISTS stand_in_units (
  order_id CHAR(36) NOT NULL PRIMARY KEY,
  cause VARCHAR(340) NOT NULL,
  variant INT NOT NULL,
  -- faults that were put right before it was planted
  mended INT NOT NULL
);
