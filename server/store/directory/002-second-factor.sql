-- a second factor by time, for who wants one: its secret, the last step that was used (none is used twice), and codes for when the telephone is gone
ALTER TABLE accounts ADD COLUMN IF NOT EXISTS otp_secret VARCHAR(64) NULL;
ALTER TABLE accounts ADD COLUMN IF NOT EXISTS otp_pending VARCHAR(64) NULL;
ALTER TABLE accounts ADD COLUMN IF NOT EXISTS otp_step BIGINT NOT NULL DEFAULT 0;
ALTER TABLE accounts ADD COLUMN IF NOT EXISTS otp_spare TEXT NULL;
