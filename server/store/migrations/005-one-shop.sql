-- when something was done stands beside when it was recorded (at); version is that of the event's body, 0 for bodies from before they had one
ALTER TABLE order_events ADD COLUMN IF NOT EXISTS version SMALLINT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS done_at DATETIME(3) NULL, ADD KEY IF NOT EXISTS by_order_type (order_id, type);
-- state_version: of another version, a state is made anew from its events; touched is set by the database alone, and is what open screens follow
ALTER TABLE orders ADD COLUMN IF NOT EXISTS state_version SMALLINT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS touched TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3), ADD KEY IF NOT EXISTS by_touch (touched);
-- work on the whole record that goes on where it was interrupted
CREATE TABLE IF NOT EXISTS progress (name VARCHAR(40) NOT NULL PRIMARY KEY, upto INT NOT NULL, done TINYINT NOT NULL);
-- each setting under a version of its own: an older page never takes back what it did not change
CREATE TABLE IF NOT EXISTS setting_fields (field VARCHAR(40) NOT NULL PRIMARY KEY, json LONGTEXT NOT NULL, version INT NOT NULL, by_person VARCHAR(31) NOT NULL, at DATETIME(3) NOT NULL);
CREATE TABLE IF NOT EXISTS shelf (item VARCHAR(60) NOT NULL PRIMARY KEY, have INT NOT NULL, version INT NOT NULL, by_person VARCHAR(31) NOT NULL, at DATETIME(3) NOT NULL);
-- people leave, and stay in the record; code: given once by the owner to who forgot their password
ALTER TABLE people ADD COLUMN IF NOT EXISTS ended_at DATETIME(3) NULL, ADD COLUMN IF NOT EXISTS code_hash VARCHAR(200) NULL, ADD COLUMN IF NOT EXISTS code_until DATETIME(3) NULL, ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1;
ALTER TABLE sessions ADD KEY IF NOT EXISTS by_person (person);
ALTER TABLE hits ADD KEY IF NOT EXISTS by_end (reset_at);
CREATE TABLE IF NOT EXISTS rights_log (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, at DATETIME(3) NOT NULL, by_person VARCHAR(31) NOT NULL, person VARCHAR(31) NOT NULL, says VARCHAR(200) NOT NULL);
