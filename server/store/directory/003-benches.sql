-- tablets at a bench that several people share: who is signed in there stays so while another works, and comes back by a short code
ALTER TABLE accounts ADD COLUMN IF NOT EXISTS bench_code VARCHAR(200) NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS bench CHAR(64) NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS bench_tries INT NOT NULL DEFAULT 0;
ALTER TABLE sessions ADD KEY IF NOT EXISTS by_bench (bench);
