-- what an order found of its unit and a lead did not want in the sheet
CREATE TABLE IF NOT EXISTS declined_values (
  model VARCHAR(60) NOT NULL,
  pointer VARCHAR(200) NOT NULL,
  order_id CHAR(36) NOT NULL,
  reason VARCHAR(200) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (model, pointer, order_id)
);
-- why a revision was made
ALTER TABLE sheets ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NULL;
