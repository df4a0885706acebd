-- what an open order still uses up, as JSON: worked out at each write, like its summary; null: written before this was thought of
ALTER TABLE orders ADD COLUMN IF NOT EXISTS demands MEDIUMTEXT NULL;

-- orders to the supplier
CREATE TABLE IF NOT EXISTS purchases (
  id CHAR(36) NOT NULL PRIMARY KEY,
  number INT NOT NULL UNIQUE,
  version INT NOT NULL,
  state VARCHAR(10) NOT NULL,
  purchase_lines MEDIUMTEXT NOT NULL,
  answer MEDIUMTEXT NULL,
  told_day VARCHAR(10) NULL,
  says VARCHAR(300) NOT NULL,
  tries INT NOT NULL,
  next_try DATETIME(3) NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY by_state (state, next_try)
);

-- what arrived, as it was counted: once, however often it was sent
CREATE TABLE IF NOT EXISTS receipts (
  id CHAR(36) NOT NULL PRIMARY KEY,
  purchase_id CHAR(36) NOT NULL,
  receipt_lines MEDIUMTEXT NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY of_purchase (purchase_id, at)
);

-- what came onto the shelf and went from it, and why
CREATE TABLE IF NOT EXISTS stock_moves (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  item VARCHAR(60) NOT NULL,
  amount DOUBLE NOT NULL,
  why VARCHAR(12) NOT NULL,
  ref VARCHAR(80) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  at DATETIME(3) NOT NULL,
  KEY of_item (item, id)
);

-- messages to owners of units: once for each thing that happened
CREATE TABLE IF NOT EXISTS messages (
  id CHAR(36) NOT NULL PRIMARY KEY,
  order_id CHAR(36) NOT NULL,
  kind VARCHAR(12) NOT NULL,
  ref VARCHAR(40) NOT NULL,
  text TEXT NOT NULL,
  address VARCHAR(60) NOT NULL,
  state VARCHAR(10) NOT NULL,
  says VARCHAR(300) NOT NULL,
  tries INT NOT NULL,
  next_try DATETIME(3) NULL,
  at DATETIME(3) NOT NULL,
  sent_at DATETIME(3) NULL,
  UNIQUE KEY once_each (order_id, kind, ref),
  KEY by_state (state, next_try)
);

-- what the stand-ins for a supplier and a messenger hold: outside of the shop, were they real
CREATE TABLE IF NOT EXISTS standin_supplier (
  ref CHAR(36) NOT NULL PRIMARY KEY,
  json MEDIUMTEXT NOT NULL,
  at DATETIME(3) NOT NULL
);
CREATE TABLE IF NOT EXISTS standin_messenger (
  ref CHAR(36) NOT NULL PRIMARY KEY,
  address VARCHAR(60) NOT NULL,
  text TEXT NOT NULL,
  at DATETIME(3) NOT NULL
);
