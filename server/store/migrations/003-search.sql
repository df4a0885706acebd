-- which words stand in which orders: read from the newest order on, a search ends as soon as it has enough
CREATE TABLE IF NOT EXISTS order_words (
  word VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
  number INT NOT NULL,
  PRIMARY KEY (word, number)
);
-- each word once: what an unfinished one may become
CREATE TABLE IF NOT EXISTS words (word VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL PRIMARY KEY);
ALTER TABLE orders DROP INDEX IF EXISTS ft_words, DROP COLUMN IF EXISTS words, ADD COLUMN IF NOT EXISTS opened_at DATETIME(3) NULL, ADD KEY IF NOT EXISTS by_opening (opened_at, number);
ALTER TABLE order_events DROP INDEX IF EXISTS ft_says;
UPDATE orders o SET opened_at = (SELECT at FROM order_events e WHERE e.order_id = o.id AND e.seq = 1);
