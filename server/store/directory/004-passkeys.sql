-- passkeys: each opens one account at one address; what its device keeps secret is never here
ALTER TABLE accounts ADD COLUMN IF NOT EXISTS passkey_handle VARCHAR(100) CHARACTER SET ascii COLLATE ascii_bin NULL;
CREATE TABLE IF NOT EXISTS passkeys (
  -- of the credential’s id, which may be long
  id_hash CHAR(64) NOT NULL PRIMARY KEY,
  account VARCHAR(31) NOT NULL,
  -- the name of the address it was made at and opens
  host VARCHAR(255) NOT NULL,
  credential VARCHAR(1400) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  public_key VARBINARY(4000) NOT NULL,
  counter BIGINT NOT NULL,
  transports VARCHAR(200) NOT NULL,
  -- as its person calls it
  name VARCHAR(40) NOT NULL,
  at DATETIME(3) NOT NULL,
  used_at DATETIME(3) NULL,
  KEY by_account (account)
);
-- what a passkey is asked to sign, once and soon; of an account while one is made, of nobody yet at a sign-in
CREATE TABLE IF NOT EXISTS challenges (
  challenge_hash CHAR(64) NOT NULL PRIMARY KEY,
  account VARCHAR(31) NULL,
  until_at DATETIME(3) NOT NULL,
  KEY by_end (until_at)
);
