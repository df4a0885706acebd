-- sheets that are not offered any more; orders that have them keep them
CREATE TABLE IF NOT EXISTS retired_sheets (
  kind VARCHAR(10) NOT NULL,
  id VARCHAR(60) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (kind, id)
);
