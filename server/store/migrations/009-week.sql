-- the orders as the week was last planned: the next week is planned near it
CREATE TABLE IF NOT EXISTS week_plan (
  id TINYINT NOT NULL PRIMARY KEY,
  json MEDIUMTEXT NOT NULL,
  at DATETIME(3) NOT NULL
);
