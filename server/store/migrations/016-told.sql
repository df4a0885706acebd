-- what orders tell the next unit of their model (findings, what was said of them, what was measured), kept with each event
CREATE TABLE IF NOT EXISTS told (
  order_id CHAR(36) NOT NULL,
  seq INT NOT NULL,
  model VARCHAR(60) NOT NULL,
  kind VARCHAR(10) NOT NULL,
  -- the finding that a judgement is of
  about VARCHAR(46) CHARACTER SET ascii COLLATE ascii_bin NULL,
  number INT NOT NULL,
  at DATETIME(3) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  json TEXT NOT NULL,
  PRIMARY KEY (order_id, seq),
  KEY by_model (model, kind, at, number, seq),
  KEY by_about (about, at)
);
-- of a unit what others of its model are told, beside the state and not in it
ALTER TABLE orders ADD COLUMN IF NOT EXISTS build VARCHAR(60) NOT NULL DEFAULT '';
-- nobody touched them with that
UPDATE orders SET build = COALESCE(JSON_VALUE(state, '$.unit.build'), ''), touched = touched WHERE build = '';
