-- people, sessions and limits are in the directory that all shops have in common
DROP TABLE IF EXISTS people;
DROP TABLE IF EXISTS sessions;
DROP TABLE IF EXISTS hits;
DROP TABLE IF EXISTS rights_log;
DROP TABLE IF EXISTS servers;
