-- what each kit of a sealed order took, beside what was planned: what the shop learns its times from; kit '' is the unit's own work
CREATE TABLE IF NOT EXISTS worked (
  number INT NOT NULL,
  kit VARCHAR(60) NOT NULL,
  model VARCHAR(60) NOT NULL,
  by_person VARCHAR(31) NOT NULL,
  planned DOUBLE NOT NULL,
  spent DOUBLE NOT NULL,
  nth INT NOT NULL,
  skipped INT NOT NULL,
  findings INT NOT NULL,
  mended INT NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (number, kit),
  KEY by_kit (kit, by_person)
);
